/** What keys do, which keys do it until a person says otherwise, and how keys are called. */

/** What one is doing while a key is of use. */
export type KeyGroup = "facets" | "place" | "cut" | "layer" | "look" | "rest";

export const KEY_GROUPS: readonly { readonly id: KeyGroup; readonly title: string }[] = [
  { id: "facets", title: "Opening what can be changed" },
  { id: "place", title: "Placing" },
  { id: "cut", title: "Cutting and painting" },
  { id: "layer", title: "Layers and the pile" },
  { id: "look", title: "Looking" },
  { id: "rest", title: "Everything else" },
];

interface KeyDeedShape {
  readonly id: string;
  readonly group: KeyGroup;
  readonly does: string;
  /** Strokes that do it, the first as the map shows it. */
  readonly keys: readonly string[];
  /** Whether it goes on only for as long as the key is held. */
  readonly isHeld?: boolean;
  /** Whether a key that is kept down does it again and again. */
  readonly isRepeated?: boolean;
}

/** What a key can be set for. A stroke is a key, with `Shift ` before it where that counts. */
export const KEY_DEEDS = [
  { id: "place", group: "facets", does: "Place: move, scale, turn the open layer", keys: ["p"] },
  { id: "wash", group: "facets", does: "Words, or the colours of a wash", keys: ["w"] },
  { id: "cut", group: "facets", does: "Cut: what of the open layer shows", keys: ["c"] },
  { id: "fade", group: "facets", does: "Fade: where the open layer fades out", keys: ["f"] },
  { id: "blend", group: "facets", does: "Blend: how it joins those beneath", keys: ["b"] },
  { id: "tone", group: "facets", does: "Tone: how light and of what colour it is", keys: ["t"] },
  {
    id: "shadow",
    group: "facets",
    does: "Shadow: what its shape throws, its outline",
    keys: ["h"],
  },
  { id: "mend", group: "facets", does: "Mend specks and scratches of the open photo", keys: ["r"] },
  { id: "backdrop", group: "cut", does: "Take the backdrop of the open photo away", keys: ["a"] },
  { id: "doubt", group: "cut", does: "Go to the next doubtful place of the edge", keys: ["d"] },
  {
    id: "doubtBefore",
    group: "cut",
    does: "Go back to the doubtful place before",
    keys: ["Shift d"],
  },
  {
    id: "swap",
    group: "cut",
    does: "Let the brush do the other of the two, and back; held, for as long",
    keys: ["n"],
  },
  { id: "narrower", group: "cut", does: "A narrower brush", keys: [","], isRepeated: true },
  { id: "wider", group: "cut", does: "A wider brush", keys: ["."], isRepeated: true },
  {
    id: "uncut",
    group: "cut",
    does: "See everything of the open layer, cut or not",
    keys: ["e"],
    isHeld: true,
  },
  { id: "words", group: "layer", does: "Lay on words", keys: ["i"] },
  {
    id: "choose",
    group: "layer",
    does: "Choose the open layer with others, or let it go",
    keys: ["m"],
  },
  {
    id: "forward",
    group: "layer",
    does: "Bring the open layer forward",
    keys: ["PageUp"],
    isRepeated: true,
  },
  {
    id: "back",
    group: "layer",
    does: "Send the open layer back",
    keys: ["PageDown"],
    isRepeated: true,
  },
  { id: "copy", group: "layer", does: "Lay a copy over the open layer", keys: ["l"] },
  { id: "lock", group: "layer", does: "Lock or unlock the open layer", keys: ["k"] },
  { id: "hide", group: "layer", does: "Hide or show the open layer", keys: ["o"] },
  { id: "together", group: "layer", does: "Put it together with the one beneath", keys: ["u"] },
  { id: "apart", group: "layer", does: "Take the open group apart", keys: ["Shift u"] },
  { id: "remove", group: "layer", does: "Take the open layer away", keys: ["Delete", "Backspace"] },
  {
    id: "through",
    group: "look",
    does: "See through the open layer",
    keys: ["g"],
    isHeld: true,
  },
  {
    id: "without",
    group: "look",
    does: "Leave the open layer out, to see what lies behind",
    keys: ["v"],
    isHeld: true,
  },
  {
    id: "printed",
    group: "look",
    does: "See it in the printer's colours",
    keys: ["q"],
    isHeld: true,
  },
  {
    id: "closer",
    group: "look",
    does: "Zoom in; the wheel does so at the pointer",
    keys: ["+", "="],
  },
  { id: "further", group: "look", does: "Zoom out", keys: ["-"] },
  { id: "whole", group: "look", does: "Show the whole picture", keys: ["0"] },
  { id: "lifeSize", group: "look", does: "Show it pixel for pixel", keys: ["1"] },
  { id: "shelf", group: "rest", does: "Open or close the shelf", keys: ["s"] },
] as const satisfies readonly KeyDeedShape[];

export type KeyDeed = KeyDeedShape & { readonly id: DeedId };
export type DeedId = (typeof KEY_DEEDS)[number]["id"];

/** What hands and keys do that stays as it is. */
export const FIXED_KEYS: readonly {
  readonly group: KeyGroup;
  readonly keys: string;
  readonly does: string;
}[] = [
  {
    group: "place",
    keys: "Arrow keys",
    does: "Move the open layer by one pixel; with Shift by ten",
  },
  {
    group: "place",
    keys: "Alt, held",
    does: "While moving: rest on no edges and middles of others",
  },
  { group: "place", keys: "Ctrl + drag", does: "Move a copy of the layer" },
  {
    group: "cut",
    keys: "Enter",
    does: "Close the outline that is drawn; Backspace takes a corner back",
  },
  { group: "cut", keys: "Shift + click", does: "Paint straight on from the last stroke" },
  { group: "cut", keys: "Alt + wheel", does: "A narrower or a wider brush" },
  {
    group: "layer",
    keys: "Shift + click, Shift + drag",
    does: "Choose one more layer; draw a ring round several",
  },
  {
    group: "layer",
    keys: "Alt + click",
    does: "Take the front layer, even one that is looked through",
  },
  { group: "layer", keys: "Menu key", does: "Fan out all layers there, as press and hold does" },
  { group: "look", keys: "Space, held", does: "Drag the view instead of the layer" },
  { group: "rest", keys: "Ctrl + Z", does: "Undo" },
  { group: "rest", keys: "Ctrl + Shift + Z", does: "Do it again" },
  { group: "rest", keys: "Escape", does: "Close the open layer" },
  { group: "rest", keys: "?", does: "This map" },
];

/** What no key of these can be set for: they mean the same everywhere. */
const RESERVED: ReadonlySet<string> = new Set([
  "?",
  " ",
  "Alt",
  "AltGraph",
  "ArrowDown",
  "ArrowLeft",
  "ArrowRight",
  "ArrowUp",
  "CapsLock",
  "ContextMenu",
  "Control",
  "Dead",
  "Enter",
  "Escape",
  "Meta",
  "Process",
  "Shift",
  "Tab",
  "Unidentified",
]);

/** Strokes that a person set, by deed; none where nothing shall do it. */
export type OwnKeys = Readonly<Partial<Record<DeedId, readonly string[]>>>;

type Pressed = Pick<KeyboardEvent, "key" | "shiftKey">;

const isLetter = (key: string) => key.length === 1 && key.toLowerCase() !== key.toUpperCase();
const nameOf = (key: string) => (key.length === 1 ? key.toLowerCase() : key);

/** Return the stroke that a press means, where a key can be set to it; null otherwise. */
export function strokeOf({ key, shiftKey }: Pressed): string | null {
  if (RESERVED.has(key)) return null;
  // A sign such as + may need Shift on one keyboard and not on another.
  const counts = shiftKey && (key.length > 1 || isLetter(key));
  return counts ? `Shift ${nameOf(key)}` : nameOf(key);
}

/**
 * Return the strokes that a press asks for while they are set: one, or none; null where
 * it asks for nothing that can be set.
 */
export function askedStrokes(
  press: Pressed & Pick<KeyboardEvent, "ctrlKey" | "metaKey" | "altKey">,
  id: DeedId,
): readonly string[] | null {
  if (press.ctrlKey || press.metaKey || press.altKey) return null;
  if (press.key === "Backspace" && id !== "remove") return [];
  const stroke = strokeOf(press);
  return stroke === null ? null : [stroke];
}

/** Return the strokes that do something, as far as a person did not set another one. */
export function strokesFor(deed: KeyDeed, own: OwnKeys): readonly string[] {
  return own[deed.id] ?? deed.keys;
}

/** Return what a press does; Shift counts where a stroke has it, Caps Lock never does. */
export function deedOf(press: Pressed, own: OwnKeys): KeyDeed | undefined {
  const name = nameOf(press.key);
  const strokes = press.shiftKey ? [`Shift ${name}`, name] : [name];
  for (const stroke of strokes) {
    const found = KEY_DEEDS.find((deed) => strokesFor(deed, own).includes(stroke));
    if (found) return found;
  }
  return undefined;
}

/** Return the keys with other strokes for a deed, which are taken from what had them. */
export function withKeys(own: OwnKeys, id: DeedId, strokes: readonly string[]): OwnKeys {
  const robbed = KEY_DEEDS.map((deed): [DeedId, readonly string[]] => [
    deed.id,
    strokesFor(deed, own),
  ]).filter(([other, had]) => other !== id && had.some((stroke) => strokes.includes(stroke)));
  const left = robbed.map(([other, had]) => [other, had.filter((one) => !strokes.includes(one))]);
  return { ...own, ...Object.fromEntries(left), [id]: strokes };
}

/** Return the keys that are still sense of what was kept, whoever wrote it. */
export function readKeys(kept: string | null): OwnKeys {
  let own: OwnKeys = {};
  for (const [name, strokes] of entriesOf(kept)) {
    const deed = KEY_DEEDS.find(({ id }) => id === name);
    if (!deed || !Array.isArray(strokes) || !strokes.every(isStroke)) continue;
    own = withKeys(own, deed.id, strokes);
  }
  return own;
}

function entriesOf(kept: string | null): readonly [string, unknown][] {
  try {
    const found: unknown = JSON.parse(kept ?? "{}");
    return typeof found === "object" && found !== null ? Object.entries(found) : [];
  } catch {
    return [];
  }
}

function isStroke(stroke: unknown): stroke is string {
  if (typeof stroke !== "string" || !/^(Shift )?\S{1,20}$/.test(stroke)) return false;
  return !RESERVED.has(stroke.replace("Shift ", ""));
}

const SAID: Readonly<Record<string, string>> = {
  "-": "−",
  PageUp: "Page up",
  PageDown: "Page down",
};

/** Say a stroke as keyboards do. */
export function sayStroke(stroke: string): string {
  const [, shift = "", key = stroke] = /^(Shift )?(.+)$/.exec(stroke) ?? [];
  return (shift ? "Shift + " : "") + (SAID[key] ?? (key.length === 1 ? key.toUpperCase() : key));
}
