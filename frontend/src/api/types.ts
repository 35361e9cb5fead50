/** The service's types by short names, generated from its OpenAPI. */

import type { components } from "@generated/schema";
import type { Answered, ProjectState } from "@/model/composite";

type Schemas = components["schemas"];

export type Picture = Schemas["Picture"];
export type LibraryPicture = Schemas["LibraryPicture"];
export type BroughtIn = Schemas["BroughtIn"];
export type ProjectCard = Answered<Schemas["ProjectCard"]>;
export type History = Schemas["History"];
export type Tick = Schemas["Tick"];
export type Way = Schemas["Way"];
export type Version = Schemas["Version"];
export type LayerThere = Schemas["LayerThere"];
export type Job = Schemas["Job"];
export type SentencePart = Schemas["SentencePart"];
export type LayerSentence = Schemas["LayerSentence"];
export type ModeChoices = Schemas["ModeChoices"];
export type DoubtfulPlace = Schemas["DoubtfulPlace"];
export type AlignRequest = Schemas["AlignRequest"];
export type AlignFound = Answered<Schemas["AlignFound"]>;
export type AlignAnswer = Answered<Schemas["AlignAnswer"]>;
export type FrameView = Schemas["FrameView"];
export type Outcome = Schemas["EditAnswer"]["outcome"];

export type { ProjectState };
export type EditAnswer = Answered<Schemas["EditAnswer"]>;

export type Notice =
  | {
      readonly kind: "project";
      readonly id: string;
      readonly head: string;
      readonly changes: number;
    }
  | { readonly kind: "job"; readonly job: Job }
  | { readonly kind: "shelf" | "wall" | "fonts" | "plans" | "catch_up" };
