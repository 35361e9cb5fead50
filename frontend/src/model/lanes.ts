/** Runs tasks some at a time, in the order in which they came. */
export class Lanes {
  #free: number;
  readonly #waiting: (() => void)[] = [];

  constructor(count: number) {
    this.#free = count;
  }

  async run<T>(task: () => Promise<T>): Promise<T> {
    if (this.#free > 0) this.#free -= 1;
    else await new Promise<void>((resolve) => this.#waiting.push(resolve));
    try {
      return await task();
    } finally {
      const next = this.#waiting.shift();
      if (next) next();
      else this.#free += 1;
    }
  }
}

/**
 * Hands results on in the order of their places, however they come: each waits for those
 * before it. A place that has nothing to hand on is passed over; what comes for it after
 * all is handed on at once.
 */
export class InOrder<T> {
  readonly #hand: (result: T) => void;
  readonly #come = new Map<number, T | null>();
  #next = 0;

  constructor(hand: (result: T) => void) {
    this.#hand = hand;
  }

  put(place: number, result: T | null): void {
    if (place < this.#next) {
      if (result !== null) this.#hand(result);
      return;
    }
    this.#come.set(place, result);
    for (
      let now = this.#come.get(this.#next);
      now !== undefined;
      now = this.#come.get(this.#next)
    ) {
      this.#next += 1;
      if (now !== null) this.#hand(now);
    }
  }
}
