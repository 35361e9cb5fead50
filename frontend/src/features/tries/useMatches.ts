/** Ways to match a layer, asked for once for each state of what they are made from. */

import { useQuery } from "@tanstack/react-query";
import { askForMatches } from "@/api/calls";
import type { Composite, TonedLayer } from "@/model/composite";
import { type MatchOffer, matchedTo } from "@/model/matches";
import { useProject } from "@/state/project";

/** Return them, the safest first; none while they are being found. */
export function useMatches(
  composite: Composite,
  layer: TonedLayer,
  place: number,
): readonly MatchOffer[] | undefined {
  const known = useProject((project) => project.known);
  const tone = layer.tones[place];
  const to = tone?.kind === "match" ? matchedTo(composite, tone) : null;
  const offers = useQuery({
    // Another strength of the match itself changes none of them.
    queryKey: ["matches", known?.id, layer.id, place, to, known?.head],
    queryFn: () =>
      askForMatches(known?.id ?? "", {
        revision: known?.head ?? "",
        layer_id: layer.id,
        place,
        to,
      }),
    enabled: known !== null,
    placeholderData: (before) => before,
  });
  return offers.data;
}
