/** Decodes frames: a JPEG of colour and, where something is see-through, one of the veil. */

/** As it was decoded, or a canvas that others were laid on. */
export type Picture = ImageBitmap | OffscreenCanvas;

export interface Frame {
  readonly color: Picture;
  /** 255 - alpha as grey; null where the whole frame is opaque. */
  readonly veil: Picture | null;
}

const LENGTH_BYTES = 4;

/** Decode the frames of a body: each two lengths, and two pictures of those. */
export async function decodeFrames(body: ArrayBuffer): Promise<Frame[]> {
  const lengths = new DataView(body);
  const decode = (from: number, to: number) =>
    createImageBitmap(new Blob([body.slice(from, to)], { type: "image/jpeg" }));
  const coming: Promise<Frame>[] = [];
  for (let at = 0; at < body.byteLength; ) {
    const first = at + 2 * LENGTH_BYTES;
    const second = first + lengths.getUint32(at);
    const end = second + lengths.getUint32(at + LENGTH_BYTES);
    const veil = second < end ? decode(second, end) : null;
    coming.push(
      Promise.all([decode(first, second), veil]).then(([color, under]) => ({ color, veil: under })),
    );
    at = end;
  }
  return Promise.all(coming);
}

/**
 * Draw a part of a frame over what the context holds: what is there times the veil,
 * plus the premultiplied colour.
 */
export function drawFrame(
  context: CanvasRenderingContext2D,
  frame: Frame,
  from: { x: number; y: number; width: number; height: number },
  to: { x: number; y: number; width: number; height: number },
): void {
  const draw = (image: Picture) =>
    context.drawImage(
      image,
      from.x,
      from.y,
      from.width,
      from.height,
      to.x,
      to.y,
      to.width,
      to.height,
    );
  if (frame.veil) {
    context.globalCompositeOperation = "multiply";
    draw(frame.veil);
    context.globalCompositeOperation = "lighter";
  }
  draw(frame.color);
  context.globalCompositeOperation = "source-over";
}

/** Free a frame's memory. */
export function closeFrame(frame: Frame): void {
  for (const picture of [frame.color, frame.veil]) {
    if (picture && "close" in picture) picture.close();
  }
}

/** Runs one request at a time and keeps only the newest that waits. */
export class NewestOnly<Request> {
  readonly #run: (request: Request) => Promise<void>;
  #busy = false;
  #next: Request | null = null;

  constructor(run: (request: Request) => Promise<void>) {
    this.#run = run;
  }

  /** Run a request now, or after the one under way unless a newer one comes. */
  push(request: Request): void {
    this.#next = request;
    if (!this.#busy) void this.#drain();
  }

  async #drain(): Promise<void> {
    this.#busy = true;
    try {
      while (this.#next !== null) {
        const request = this.#next;
        this.#next = null;
        await this.#run(request);
      }
    } finally {
      this.#busy = false;
    }
  }
}
