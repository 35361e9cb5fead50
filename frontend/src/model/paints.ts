/** Colours that old photos are often painted with. */

export interface Paint {
  readonly name: string;
  readonly color: string;
}

export const PAINTS: readonly Paint[] = [
  { name: "Skin", color: "#c98f6b" },
  { name: "Dark skin", color: "#7d4e33" },
  { name: "Lips", color: "#b4605a" },
  { name: "Fair hair", color: "#c9a35f" },
  { name: "Brown hair", color: "#6b4a2f" },
  { name: "Red cloth", color: "#9c3a3a" },
  { name: "Blue cloth", color: "#3f5f8f" },
  { name: "Green cloth", color: "#4d7a5b" },
  { name: "Leaves", color: "#5f7a3a" },
  { name: "Sky", color: "#7fa8cf" },
  { name: "Brick", color: "#a5523a" },
  { name: "Wood", color: "#8a6242" },
  { name: "Brass", color: "#b58a3c" },
];
