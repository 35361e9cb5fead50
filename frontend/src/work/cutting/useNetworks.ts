/** The networks that find subjects, as the service has them. */

import { useQuery } from "@tanstack/react-query";
import { fetchNetworks } from "@/api/calls";
import type { Network } from "@/model/mattes";

const NONE: readonly Network[] = [];

/** Return what is there, and whether that is known as yet. */
export function useNetworks(): {
  readonly networks: readonly Network[];
  readonly isKnown: boolean;
} {
  const { data } = useQuery({
    queryKey: ["networks"],
    queryFn: fetchNetworks,
    staleTime: Infinity,
  });
  return { networks: data ?? NONE, isKnown: data !== undefined };
}
