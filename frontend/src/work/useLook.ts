/** Pictures of a file as it will be: one is asked for at a time, and the newest waits. */

import { useEffect, useRef, useState } from "react";
import { type FileLook, fetchLook, type Looked } from "@/api/calls";
import type { ExportRequest } from "@/model/finishing";

export interface ShownLook {
  readonly url: string;
  readonly seen: Looked;
  readonly x: number;
  readonly y: number;
  readonly outside: number;
}

interface Wish {
  readonly projectId: string;
  readonly request: ExportRequest;
  readonly seen: Looked;
}

interface LookState {
  readonly look: ShownLook | null;
  readonly trouble: string | null;
  readonly isFetching: boolean;
}

const NONE: LookState = { look: null, trouble: null, isFetching: false };

/** Return how a part of a file looks; the one before stays until the next is there. */
export function useLook(
  projectId: string,
  request: ExportRequest | null,
  seen: Looked | null,
): LookState {
  const [state, setState] = useState(NONE);
  const newest = useRef<Wish | null>(null);
  const isBusy = useRef(false);
  const isGone = useRef(false);
  const stamp = JSON.stringify([request, seen]);

  const ask = async () => {
    const wish = newest.current;
    if (isBusy.current || !wish) return;
    isBusy.current = true;
    newest.current = null;
    if (!isGone.current) setState((before) => ({ ...before, isFetching: true }));
    const next = await answered(wish);
    isBusy.current = false;
    if (isGone.current) {
      if (next.look) URL.revokeObjectURL(next.look.url);
      return;
    }
    setState((before) => {
      if (next.look && before.look) URL.revokeObjectURL(before.look.url);
      return { ...next, look: next.look ?? before.look, isFetching: newest.current !== null };
    });
    void ask();
  };

  // biome-ignore lint/correctness/useExhaustiveDependencies: the stamp stands for both
  useEffect(() => {
    if (!request || !seen) return;
    newest.current = { projectId, request, seen };
    void ask();
  }, [projectId, stamp]);
  useEffect(() => {
    isGone.current = false;
    return () => {
      isGone.current = true;
    };
  }, []);
  return state;
}

async function answered({ projectId, request, seen }: Wish): Promise<LookState> {
  try {
    const look = await fetchLook(projectId, request, seen);
    return { look: shown(look, seen), trouble: null, isFetching: false };
  } catch (error) {
    return { look: null, trouble: (error as Error).message, isFetching: false };
  }
}

function shown({ picture, x, y, outside }: FileLook, seen: Looked): ShownLook {
  return { url: URL.createObjectURL(picture), seen, x, y, outside };
}
