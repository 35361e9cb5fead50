/** How small frames may be while something moves, so that they keep up with the hand. */

/** Shares of the stage's own size, from the sharpest on. */
export const MOVING_DETAILS = [1 / 2, 1 / 3, 1 / 4] as const;

/** A frame that usually takes longer is too late: 25 a second must come, with some to spare. */
const LATE_MS = 34;
/** Where frames usually take less, the next larger ones, 2.25 times the pixels, are in time too. */
const EARLY_MS = 13;
/** How much one frame counts against those before it. */
const WEIGHT = 0.3;
/** How many frames in a row are looked at before the size is changed. */
const LOOKED_AT = 4;

/** Learns from each frame how long the next ones will take. */
export class Pace {
  #step = 0;
  #usual = 0;
  #counted = 0;
  /** The first of a size, or of a movement, has to find what the others keep. */
  #isFirst = true;

  /** How large frames shall be, as a share of the stage's own size. */
  get detail(): number {
    return MOVING_DETAILS[this.#step] ?? MOVING_DETAILS[0];
  }

  /** Note that nothing moved in the frame that came. */
  rested(): void {
    this.#isFirst = true;
  }

  /** Note how long a frame took from being asked for to being there. */
  took(milliseconds: number): void {
    if (this.#isFirst) {
      this.#isFirst = false;
      return;
    }
    this.#usual += (milliseconds - this.#usual) * (this.#counted === 0 ? 1 : WEIGHT);
    this.#counted += 1;
    if (this.#counted < LOOKED_AT) return;
    if (this.#usual > LATE_MS) this.#change(this.#step + 1);
    else if (this.#usual < EARLY_MS) this.#change(this.#step - 1);
  }

  #change(step: number): void {
    if (MOVING_DETAILS[step] === undefined) return;
    this.#step = step;
    this.#usual = 0;
    this.#counted = 0;
    this.#isFirst = true;
  }
}
