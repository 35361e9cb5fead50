/** A picture of the shelf while it is dragged to the stage. */

interface DraggedPicture {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
}

const TYPE = "application/x-glyphaneme-picture";

/** Put a picture into a drag. */
export function carryPicture(transfer: DataTransfer, picture: DraggedPicture): void {
  const { id, name, width, height } = picture;
  transfer.setData(TYPE, JSON.stringify({ id, name, width, height }));
  transfer.effectAllowed = "copy";
}

/** Return the picture that a drag carries, if it carries one. */
export function draggedPicture(transfer: DataTransfer): DraggedPicture | null {
  const data = transfer.getData(TYPE);
  return data ? (JSON.parse(data) as DraggedPicture) : null;
}
