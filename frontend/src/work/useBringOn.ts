/** Brings photos in and lays them on: one where it was dropped, several side by side. */

import { BESIDE } from "@generated/limits";
import { useCallback } from "react";
import type { BroughtIn } from "@/api/types";
import { LINING_UP } from "@/model/aligning";
import { type Composite, isPlaced, layerById } from "@/model/composite";
import { meltTogether } from "@/model/fades";
import { fillingCanvas } from "@/model/geometry";
import { sayCount } from "@/model/wording";
import { useDesk } from "@/state/desk/desk";
import { type Message, useMessages } from "@/state/messages";
import { expectedComposite } from "@/state/project";
import { layOn } from "@/work/commands";
import type { DeskActions } from "@/work/DeskContext";
import { countPhotos, useBringIn } from "@/work/useBringIn";

type BringOn = (files: readonly File[], at?: [number, number] | null) => void;

export function useBringOn(desk: DeskActions): BringOn {
  const bringIn = useBringIn();
  return useCallback(
    (files, at = null) => {
      const together = new Together(desk, countPhotos(files), at);
      bringIn(
        files,
        (picture) => together.lay(picture),
        () => together.offer(),
      );
    },
    [desk, bringIn],
  );
}

/** Lay pictures on side by side, and offer what is often done with several. */
export function layTogether(desk: DeskActions, pictures: readonly BroughtIn[]): void {
  const together = new Together(desk, pictures.length, null);
  for (const picture of pictures) together.lay(picture);
  together.offer();
}

/** Photos that come together, one after another. */
class Together {
  readonly #desk: DeskActions;
  readonly #count: number;
  readonly #at: [number, number] | null;
  readonly #laid: string[] = [];

  constructor(desk: DeskActions, count: number, at: [number, number] | null) {
    this.#desk = desk;
    this.#count = Math.min(count, BESIDE.count.maximum);
    this.#at = at;
  }

  lay(picture: BroughtIn): void {
    const place = Math.min(this.#laid.length, this.#count - 1);
    const beside = { place, count: this.#count };
    this.#laid.push(layOn(this.#desk, picture, this.#count > 1 ? { beside } : { at: this.#at }));
  }

  offer(): void {
    if (this.#laid.length < 2 || this.#desk.isLeft()) return;
    useMessages
      .getState()
      .say(
        `${sayCount(this.#laid.length, "photo")} lie on the sheet.`,
        ...offers(this.#desk, this.#laid),
      );
  }
}

function offers(desk: DeskActions, laid: readonly string[]): Message["actions"] {
  return [
    { label: "Melt them", run: () => melt(desk, laid) },
    { label: "Fill with the first", run: () => fillWithFirst(desk, laid) },
    { label: "Line them up", run: () => lineUp(laid) },
  ];
}

/** Return those that still lie there. */
function still(composite: Composite, laid: readonly string[]): readonly string[] {
  return laid.filter((id) => layerById(composite, id));
}

function melt(desk: DeskActions, laid: readonly string[]): void {
  const composite = expectedComposite();
  const left = composite ? still(composite, laid) : [];
  if (!composite || left.length < 2) return;
  const { width, height } = composite.canvas;
  desk.edit(meltTogether(left, width < height ? "down" : "across", composite.canvas));
}

function fillWithFirst(desk: DeskActions, laid: readonly string[]): void {
  const composite = expectedComposite();
  const first = composite ? layerById(composite, laid[0] ?? null) : undefined;
  if (!composite || !isPlaced(first)) return;
  const placement = fillingCanvas(first, composite.canvas);
  desk.edit({ kind: "place_layer", layer_id: first.id, placement });
}

/** Two may show the same place: they are lined up by that; more are chosen together. */
function lineUp(laid: readonly string[]): void {
  const { open, openLine, choose } = useDesk.getState().actions;
  const last = laid.at(-1) ?? null;
  if (laid.length > 2) choose(laid);
  open(last, "place");
  if (laid.length === 2) openLine(LINING_UP);
}
