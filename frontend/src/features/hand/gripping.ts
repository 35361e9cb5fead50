/** Taking the open layer by what is drawn over it. */

import { type Drag, type Press, type Pull, pulling } from "@/features/hand/drag";
import { isLayerGrip, layerGrip, numbered } from "@/features/hand/layerGrips";
import { layerPull } from "@/features/hand/moving";
import { ownPull } from "@/features/hand/ownDrags";
import { shapingPull } from "@/features/hand/shapingDrags";
import { worksInside } from "@/features/hand/underHand";
import {
  type GradientLayer,
  isFlat,
  isPlaced,
  type Layer,
  type WordsLayer,
} from "@/model/composite";
import { toSource } from "@/model/geometry";
import { draggedGradient, type GradientGrip } from "@/model/gradients";
import { draggedWords, isWordsGrip, type WordsGrip } from "@/model/lettering";
import { gradientIntoPile, gradientOnCanvas, onCanvas } from "@/model/nesting";
import { expectedComposite } from "@/state/project";

/** Begin to drag a grip of the open layer. */
export function gripping(press: Press): Drag | null | undefined {
  const { grip, open, desk } = press;
  if (grip === null || !open) return undefined;
  const pull = gripped(press, open, grip);
  return pull ? pulling(desk, pull) : null;
}

function gripped(press: Press, open: Layer, grip: string): Pull | null {
  const { composite } = press;
  if (worksInside(open)) return ownPull(composite, open, numbered(grip));
  if (open.kind === "words" && isWordsGrip(grip)) return wordsPull(press, open, grip);
  const shaping = isFlat(open) ? shapingPull(composite, open, grip) : null;
  if (shaping) return shaping;
  if (open.kind === "gradient" && isGradientGrip(grip)) return gradientPull(press, open, grip);
  return isPlaced(open) && isLayerGrip(grip) ? layerPull(press, open, layerGrip(grip)) : null;
}

/** Drag a side of the block, or what bends the lines. */
function wordsPull({ composite, touch }: Press, open: WordsLayer, grip: WordsGrip): Pull {
  const lifted = onCanvas(composite, open);
  const from = toSource(lifted, touch.at);
  return { edit: ({ at }) => draggedWords(open, grip, from, toSource(lifted, at)) };
}

function gradientPull({ composite }: Press, layer: GradientLayer, grip: GradientGrip): Pull {
  const begun = gradientOnCanvas(composite, layer);
  return {
    edit: ({ at }) => {
      const now = expectedComposite();
      if (!now) return null;
      const gradient = gradientIntoPile(now, layer.id, draggedGradient(begun, grip, at));
      return { kind: "grade_layer", layer_id: layer.id, gradient };
    },
  };
}

function isGradientGrip(grip: string): grip is GradientGrip {
  return grip === "start" || grip === "middle" || grip === "end";
}
