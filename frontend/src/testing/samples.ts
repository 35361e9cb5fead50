/** Small composites for tests. */

import type { ProjectState } from "@/api/types";
import type {
  Composite,
  GroupLayer,
  Layer,
  MendingLayer,
  PhotoLayer,
  Placement,
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

export function sampleLayer(id: string, changes: Partial<PhotoLayer> = {}): PhotoLayer {
  return {
    id,
    kind: "photo",
    name: id,
    picture: "0".repeat(64),
    width: 20,
    height: 10,
    placement: samplePlacement(),
    blend: "normal",
    opacity: 1,
    visible: true,
    locked: false,
    mask: null,
    fades: [],
    mends: [],
    effects: [],
    tones: [],
    ...changes,
  };
}

export function sampleMending(id: string, mends: MendingLayer["mends"] = []): MendingLayer {
  return {
    id,
    kind: "mending",
    name: id,
    blend: "normal",
    opacity: 1,
    visible: true,
    locked: false,
    mask: null,
    fades: [],
    effects: [],
    mends,
  };
}

export function sampleGroup(id: string, placement: Placement, ...layers: Layer[]): GroupLayer {
  const { picture: _, ...shared } = sampleLayer(id);
  return { ...shared, kind: "group", placement, layers };
}

export function sampleComposite(...layers: Layer[]): Composite {
  return {
    schema_version: 8,
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
    undo_to: null,
    redo_to: null,
    ...changes,
  };
}
