/** Small composites for tests. */

import type { ProjectState } from "@/api/types";
import type {
  Composite,
  GroupLayer,
  Layer,
  MendingLayer,
  PhotoLayer,
  Placement,
  WordsLayer,
} from "@/model/composite";

export function samplePlacement(changes: Partial<Placement> = {}): Placement {
  return {
    x: 50,
    y: 40,
    scale_x: 1,
    scale_y: 1,
    turn: 0,
    flipped: false,
    upended: false,
    crop: null,
    corners: null,
    bend: null,
    ...changes,
  };
}

/** What layers of all kinds have. */
function sampleShared(id: string) {
  return {
    id,
    name: id,
    blend: "normal",
    opacity: 1,
    visible: true,
    locked: false,
    mask: null,
    fades: [],
    effects: [],
  } as const;
}

export function sampleLayer(id: string, changes: Partial<PhotoLayer> = {}): PhotoLayer {
  return {
    ...sampleShared(id),
    kind: "photo",
    picture: "0".repeat(64),
    width: 20,
    height: 10,
    placement: samplePlacement(),
    mends: [],
    tones: [],
    ...changes,
  };
}

export function sampleMending(id: string, mends: MendingLayer["mends"] = []): MendingLayer {
  return { ...sampleShared(id), kind: "mending", mends };
}

/** Words whose frame is 220 by 120 pixels, with a block of 200 by 100 in its middle. */
export function sampleWords(id: string, text: string): WordsLayer {
  const font = { id: "f".repeat(64), name: "Lobster" };
  return {
    ...sampleShared(id),
    kind: "words",
    words: {
      setting: {
        text,
        fonts: [font],
        axes: [],
        size: 100,
        width: null,
        align: "left",
        letter_gap: 0,
        line_gap: 1.2,
        ligatures: true,
        features: [],
        form: { kind: "straight" },
      },
      ink: { kind: "plain", color: "#25221d", opacity: 1 },
      contour: null,
      panel: null,
    },
    measure: {
      fonts: [font],
      width: 220,
      height: 120,
      block: [10, 10, 210, 110],
      baselines: [90],
      capital: 70,
      lacking: "",
      lent: [],
    },
    width: 220,
    height: 120,
    placement: samplePlacement(),
    tones: [],
    stand_in: null,
  };
}

export function sampleGroup(id: string, placement: Placement, ...layers: Layer[]): GroupLayer {
  const { picture: _, ...shared } = sampleLayer(id);
  return { ...shared, kind: "group", placement, layers };
}

export function sampleComposite(...layers: Layer[]): Composite {
  return {
    schema_version: 9,
    canvas: { width: 100, height: 80, ppi: 240, background: "#ffffff" },
    layers,
  };
}

export function sampleState(changes: Partial<ProjectState> = {}): ProjectState {
  return {
    id: "project",
    name: "Poster",
    changes: 1,
    head: "first",
    composite: sampleComposite() as ProjectState["composite"],
    sentences: [],
    sheet: [],
    plan: null,
    undo_to: null,
    redo_to: null,
    ...changes,
  };
}
