/** Decodes frames: a JPEG of colour and, where something is see-through, one of the veil. */

export interface Frame {
  readonly color: ImageBitmap;
  /** 255 - alpha as grey; null where the whole frame is opaque. */
  readonly veil: ImageBitmap | null;
}

const LENGTH_BYTES = 4;

/** Decode the body of a frame. */
export async function decodeFrame(body: ArrayBuffer): Promise<Frame> {
  const end = LENGTH_BYTES + new DataView(body).getUint32(0);
  const decode = (from: number, to: number) =>
    createImageBitmap(new Blob([body.slice(from, to)], { type: "image/jpeg" }));
  const [color, veil] = await Promise.all([
    decode(LENGTH_BYTES, end),
    end < body.byteLength ? decode(end, body.byteLength) : null,
  ]);
  return { color, veil };
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
  const draw = (image: ImageBitmap) =>
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
  frame.color.close();
  frame.veil?.close();
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
    while (this.#next !== null) {
      const request = this.#next;
      this.#next = null;
      await this.#run(request);
    }
    this.#busy = false;
  }
}
