/** Tones to begin with, chosen by looking; each is made of ordinary tones. */

import type { Tone, TonedLayer } from "@/model/composite";
import type { Size } from "@/model/points";
import { freshTone, toned } from "@/model/tones";
import type { Try, TryGroup } from "@/model/tries";

interface Start {
  readonly title: string;
  readonly tones: readonly Tone[];
}

interface StartGroup {
  readonly title: string;
  readonly starts: readonly Start[];
}

const start = (title: string, ...tones: readonly Tone[]): Start => ({ title, tones });

export const STARTS: readonly StartGroup[] = [
  {
    title: "Light",
    starts: [
      start("Lighter", freshTone("light", { brightness: 0.4 })),
      start("Darker", freshTone("light", { brightness: -0.4 })),
      start("Open shadows", freshTone("light", { shadows: 0.7 })),
      start("Calm highlights", freshTone("light", { highlights: -0.7 })),
    ],
  },
  {
    title: "Contrast",
    starts: [
      start(
        "More punch",
        freshTone("light", { contrast: 0.45 }),
        freshTone("coloring", { vibrance: 0.35 }),
      ),
      start("Softer", freshTone("light", { contrast: -0.35 })),
      start(
        "Faded",
        freshTone("light", { blacks: 0.5, whites: -0.2 }),
        freshTone("coloring", { saturation: -0.25 }),
      ),
    ],
  },
  {
    title: "Colour",
    starts: [
      start("Warm", freshTone("warmth", { warmth: 30 })),
      start("Cool", freshTone("warmth", { warmth: -30 })),
      start("Livelier", freshTone("coloring", { vibrance: 0.7 })),
      start("Muted", freshTone("coloring", { saturation: -0.45 })),
      start(
        "Evening",
        freshTone("light", { brightness: -0.35, contrast: 0.2 }),
        freshTone("warmth", { warmth: 45 }),
      ),
    ],
  },
  {
    title: "Black and white",
    starts: [
      start("Plain greys", freshTone("monochrome")),
      start("Reds light", freshTone("monochrome", { reds: 0.8, yellows: 1, magentas: 0.7 })),
      start("Dark blues", freshTone("monochrome", { blues: -0.3, cyans: 0.2, yellows: 1 })),
      start("Stark", freshTone("monochrome"), freshTone("light", { contrast: 0.9, whites: 0.4 })),
      start("Old print", freshTone("monochrome", { tint: "#a0703c" })),
      start("Night print", freshTone("monochrome", { tint: "#3c5c8c" })),
    ],
  },
];

/** Lengths are shares of the shorter side: they look alike on pictures of any size. */
function madeOf(side: number): StartGroup {
  const share = (part: number) => Math.round(side * part * 10) / 10;
  const held = (value: number, least: number, most: number) =>
    Math.min(Math.max(value, least), most);
  return {
    title: "Sharpness and paint",
    starts: [
      start("Crisp", freshTone("sharpen", { radius: held(share(0.001), 0.3, 20) })),
      start("Clear", freshTone("clarity", { amount: 0.5, radius: held(share(0.02), 5, 300) })),
      start("Soft", freshTone("blur", { radius: held(share(0.004), 0, 300) })),
      start("Out of focus", freshTone("lens", { radius: held(share(0.012), 0, 200) })),
      start("Painted", freshTone("painterly", { brush: held(share(0.01), 2, 80) })),
      start("Grainy", freshTone("grain", { amount: 0.35, size: held(share(0.0012), 0.5, 12) })),
    ],
  };
}

/** Return what a layer can begin with: its tones so far, and each start after them. */
export function toneTries(layer: TonedLayer, sheet: Size): TryGroup[] {
  const { width, height } = layer.kind === "toning" ? sheet : layer;
  const groups = [...STARTS, madeOf(Math.min(width, height))];
  const base = beforeStart(layer.tones, groups);
  const offer = ({ title, tones }: Start): Try => {
    const all = [...base, ...tones];
    return { title, edit: toned(layer, all), isChosen: isSame(all, layer.tones) };
  };
  const none = offer({ title: base.length > 0 ? "Without" : "As it is", tones: [] });
  return [
    { title: "Before", tries: [none] },
    ...groups.map((group) => ({ title: group.title, tries: group.starts.map(offer) })),
  ];
}

/** Leave out the start that was taken last: another one stands in its place then. */
function beforeStart(tones: readonly Tone[], groups: readonly StartGroup[]): readonly Tone[] {
  const taken = groups
    .flatMap((group) => group.starts)
    .find((one) => isSame(one.tones, tones.slice(-one.tones.length)));
  return taken ? tones.slice(0, -taken.tones.length) : tones;
}

function isSame(one: readonly Tone[], other: readonly Tone[]): boolean {
  return JSON.stringify(one.map(sorted)) === JSON.stringify(other.map(sorted));
}

/** By name: the service and the page need not write them in one order. */
function sorted(tone: Tone): readonly (readonly [string, unknown])[] {
  return Object.entries(tone).toSorted(([a], [b]) => a.localeCompare(b));
}
