/** Colours, type and measures, by what they are for. */

export const color = {
  paper: "var(--paper)",
  sheet: "var(--sheet)",
  well: "var(--well)",
  rule: "var(--rule)",
  ruleStrong: "var(--rule-strong)",
  ink: "var(--ink)",
  softInk: "var(--soft-ink)",
  live: "var(--live)",
  liveRule: "var(--live-rule)",
  on: "var(--on)",
  onInk: "var(--on-ink)",
  trouble: "var(--trouble)",
  veil: "var(--veil)",
  veilWash: "var(--veil-wash)",
  strong: "var(--strong)",
  strongInk: "var(--strong-ink)",
  stageNote: "var(--stage-note)",
  stageNoteInk: "var(--stage-note-ink)",
} as const;

export const font = {
  reading: '"Literata Variable", Georgia, serif',
  control: '"Atkinson Hyperlegible Next Variable", system-ui, sans-serif',
  name: '"Bricolage Grotesque Variable", system-ui, sans-serif',
} as const;

/** Day: a letterpress workshop. */
export const DAY = `
  --paper: #f5f1e8;
  --sheet: #fcfaf5;
  --well: #efe9db;
  --rule: #dcd5c5;
  --rule-strong: #b9b09c;
  --ink: #25221d;
  --soft-ink: #625b50;
  --live: #9c3a24;
  --live-rule: #d9a294;
  --on: #1a655f;
  --on-ink: #ffffff;
  --trouble: #9c2a1a;
  --veil: #5b3fa6;
  --veil-wash: #f1eef7;
  --strong: #25221d;
  --strong-ink: #fbf9f3;
  --stage-note: rgb(37 34 29 / 82%);
  --stage-note-ink: #fbf9f3;
  --print: #ffffff;
  color-scheme: light;
`;

/** Night: the same workshop by lamplight, not the day turned round. */
export const NIGHT = `
  --paper: #211e1b;
  --sheet: #2b2723;
  --well: #191715;
  --rule: #3d3832;
  --rule-strong: #6b6358;
  --ink: #ece5d8;
  --soft-ink: #b3a999;
  --live: #f0a184;
  --live-rule: #7d5142;
  --on: #6cc5b8;
  --on-ink: #10211f;
  --trouble: #ff9c86;
  --veil: #b7a3ee;
  --veil-wash: #322d3d;
  --strong: #ece5d8;
  --strong-ink: #211e1b;
  --stage-note: rgb(20 18 16 / 86%);
  --stage-note-ink: #ece5d8;
  --print: #dcd6ca;
  color-scheme: dark;
`;
