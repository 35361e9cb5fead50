/** Fonts that words can be set in, as the service tells of them. */

import type { components } from "@generated/schema";
import type { Answered } from "@/model/composite";

export type Font = Answered<components["schemas"]["OfferedFont"]>;
export type FontFacts = Answered<components["schemas"]["FontFacts"]>;
