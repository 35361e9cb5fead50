/** The service's types by short names, generated from its OpenAPI. */

import type { components } from "@/api/schema";
import type { Composite, Edit } from "@/model/composite";

type Schemas = components["schemas"];

export type Picture = Schemas["Picture"];
export type BroughtIn = Schemas["BroughtIn"];
export type ProjectCard = Schemas["ProjectCard"];
export type History = Schemas["History"];
export type Tick = Schemas["Tick"];
export type Way = Schemas["Way"];
export type LayerThere = Schemas["LayerThere"];
export type Job = Schemas["Job"];
export type SentencePart = Schemas["SentencePart"];
export type LayerSentence = Schemas["LayerSentence"];
export type ModeChoices = Schemas["ModeChoices"];
export type ExportRequest = Schemas["ExportRequest"];
export type FrameView = Schemas["FrameView"];
export type Outcome = Schemas["EditAnswer"]["outcome"];

/** A project's state, with the composite as the page's model knows it. */
export type ProjectState = Omit<Schemas["ProjectState"], "composite"> & {
  readonly composite: Composite;
};

export type EditAnswer = Omit<Schemas["EditAnswer"], "state"> & { readonly state: ProjectState };

export type Notice =
  | {
      readonly kind: "project";
      readonly id: string;
      readonly head: string;
      readonly version: number;
    }
  | { readonly kind: "job"; readonly job: Job }
  | { readonly kind: "shelf" | "wall" | "catch_up" };

/** Fails to compile when the page's edits are not what the service takes. */
export type EditsFit = Edit extends Schemas["NewEdit"]["edit"] ? true : never;
export const editsFit: EditsFit = true;
