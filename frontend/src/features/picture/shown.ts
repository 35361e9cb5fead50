/** What the stage shows: a state of a picture, and how it is seen. */

import type { ToneSeen } from "@/api/calls";
import type { FrameView } from "@/api/types";
import type { Canvas, Edit } from "@/model/composite";
import type { Size } from "@/model/points";
import type { StageView } from "@/model/viewing";
import type { Trace } from "@/state/desk/trying";
import type { Backing } from "@/state/desk/viewing";

export interface Shown {
  readonly projectId: string;
  readonly revision: string;
  readonly unsaved: readonly Edit[];
  readonly canvas: Canvas;
  readonly view: StageView;
  readonly stage: Size;
  readonly pixelRatio: number;
  readonly backing: Backing;
  readonly moving: boolean;
  /** The layer whose hidden parts are hatched. */
  readonly hatched: string | null;
  /** The layer whose mask is shown alone. */
  readonly maskOf: string | null;
  /** Whether only the edge of that mask is shown. */
  readonly maskSeen: NonNullable<FrameView["mask_seen"]>;
  /** Whether it is shown in the printer's colours. */
  readonly printed: boolean;
  /** The stroke under way, where it changes only what the brush goes over. */
  readonly trace: Trace | null;
  /** Whose tones are counted besides. */
  readonly tone: ToneSeen | null;
}
