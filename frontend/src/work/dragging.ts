/** A picture of the shelf or the library while it is dragged to the stage. */

interface DraggedPicture {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
}

/** One of the library, which is no ordinary picture as yet. */
interface DraggedEntry {
  readonly name: string;
  readonly title: string;
}

const TYPE = "application/x-glyphaneme-picture";
const ENTRY = "application/x-glyphaneme-library";

/** Put a picture into a drag. */
export function carryPicture(transfer: DataTransfer, picture: DraggedPicture): void {
  const { id, name, width, height } = picture;
  transfer.setData(TYPE, JSON.stringify({ id, name, width, height }));
  transfer.effectAllowed = "copy";
}

/** Put a picture of the library into a drag. */
export function carryEntry(transfer: DataTransfer, { name, title }: DraggedEntry): void {
  transfer.setData(ENTRY, JSON.stringify({ name, title }));
  transfer.effectAllowed = "copy";
}

/** Return the picture that a drag carries, if it carries one. */
export function draggedPicture(transfer: DataTransfer): DraggedPicture | null {
  const data = transfer.getData(TYPE);
  return data ? (JSON.parse(data) as DraggedPicture) : null;
}

/** Return the picture of the library that a drag carries, if it carries one. */
export function draggedEntry(transfer: DataTransfer): DraggedEntry | null {
  const data = transfer.getData(ENTRY);
  return data ? (JSON.parse(data) as DraggedEntry) : null;
}
