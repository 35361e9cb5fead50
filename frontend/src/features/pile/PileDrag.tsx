/** Dragging layers through the pile, in and out of groups, by pointer or by keys. */

import { GripVertical } from "lucide-react";
import {
  createContext,
  type KeyboardEvent,
  type ReactElement,
  type ReactNode,
  type RefObject,
  useContext,
  useMemo,
  useRef,
  useState,
} from "react";
import { mergeProps, useButton, useDrag, useDrop, VisuallyHidden } from "react-aria";
import styled from "styled-components";
import type { Layer } from "@/model/composite";
import { type Beside, besideByKeys, dropPlace } from "@/model/piling";
import { expectedComposite, useCompositeWhile } from "@/state/project";
import { color } from "@/theme/tokens";
import { shiftInPile } from "@/work/commands";
import { useDeskActions } from "@/work/DeskContext";

interface PileDrag {
  /** The layer that is dragged. */
  readonly dragged: Layer | null;
  setDragged(layer: Layer | null): void;
}

const Context = createContext<PileDrag>({ dragged: null, setDragged: () => undefined });

export function PileDragProvider({ children }: { readonly children: ReactNode }): ReactElement {
  const [dragged, setDragged] = useState<Layer | null>(null);
  const drag = useMemo(() => ({ dragged, setDragged }), [dragged]);
  return <Context.Provider value={drag}>{children}</Context.Provider>;
}

const Handle = styled.button`
  flex: none;
  align-self: stretch;
  display: grid;
  place-items: center;
  width: 16px;
  margin: -10px 0 -10px -14px;
  padding: 0;
  border: 0;
  background: none;
  color: ${color.ruleStrong};
  cursor: grab;

  &:hover {
    color: ${color.ink};
  }
`;

const LAYER_TYPE = "application/x-glyphaneme-layer";
/** How much of a group's head, from its middle, means the group itself. */
const INNER_SHARE = 0.25;
const STEPS: Readonly<Record<string, 1 | -1>> = { ArrowUp: 1, ArrowDown: -1 };

interface DragHandle {
  /** For what is carried along. */
  readonly dragProps: ReturnType<typeof useDrag>["dragProps"];
  readonly handle: ReactElement;
}

/** Let a layer be dragged by its row, or moved by keys on its handle. */
export function useLayerDrag(layer: Layer, isOff: boolean): DragHandle {
  const desk = useDeskActions();
  const { setDragged } = useContext(Context);
  const button = useRef<HTMLButtonElement>(null);
  const { dragProps, dragButtonProps } = useDrag({
    hasDragButton: true,
    isDisabled: isOff,
    getItems: () => [{ [LAYER_TYPE]: layer.id, "text/plain": layer.name }],
    getAllowedDropOperations: () => ["move"],
    onDragStart: () => setDragged(layer),
    onDragEnd: () => setDragged(null),
  });
  const { buttonProps } = useButton(
    { ...dragButtonProps, "aria-label": `Move ${layer.name} in the pile` },
    button,
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (!step || event.altKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    shiftInPile(desk, layer, step);
  };
  const handle = (
    <Handle
      {...mergeProps(buttonProps, { onKeyDown })}
      ref={button}
      title="Drag it to another place; arrow up brings it forward"
    >
      <GripVertical size={14} aria-hidden="true" />
    </Handle>
  );
  return { dragProps, handle };
}

interface DropTarget {
  readonly dropProps: ReturnType<typeof useDrop>["dropProps"];
  /** Where the dragged layer would go, while it is held over this one. */
  readonly beside: Beside | null;
  /** What keys reach while something is dragged by them. */
  readonly button: ReactElement | null;
}

/** Let other layers be dropped on a layer's row: before it, behind it, or into a group. */
export function useLayerDrop(layer: Layer, head: RefObject<HTMLElement | null>): DropTarget {
  const desk = useDeskActions();
  const { dragged } = useContext(Context);
  // Each row would be drawn anew with every move on the stage.
  const composite = useCompositeWhile(dragged !== null);
  const [beside, setBeside] = useState<Beside | null>(null);
  // Keys move the focus to this, a pointer never does.
  const spot = useRef<HTMLDivElement>(null);
  const byKeys = dragged && composite ? besideByKeys(composite, dragged.id, layer.id) : "over";
  const meantAt = (y: number) =>
    document.activeElement === spot.current ? byKeys : besideAt(layer, head.current, y);
  const placeAt = (y: number) => {
    const now = expectedComposite();
    return dragged && now ? dropPlace(now, dragged.id, layer.id, meantAt(y)) : null;
  };
  const over = ({ y }: { readonly y: number }) => setBeside(placeAt(y) && meantAt(y));
  const { dropProps, dropButtonProps } = useDrop({
    ref: spot,
    isDisabled: dragged === null,
    hasDropButton: true,
    getDropOperation: (types) => (types.has(LAYER_TYPE) ? "move" : "cancel"),
    onDropEnter: over,
    onDropMove: over,
    onDropExit: () => setBeside(null),
    onDrop: ({ y }) => {
      setBeside(null);
      const place = placeAt(y);
      if (dragged && place) desk.edit({ kind: "move_layer", layer_id: dragged.id, ...place });
    },
  });
  const words = `${byKeys === "over" ? "In front of" : "Behind"} ${layer.name}`;
  const { buttonProps } = useButton(
    { ...dropButtonProps, elementType: "div", "aria-label": words },
    spot,
  );
  const isReached =
    dragged && composite && dropPlace(composite, dragged.id, layer.id, byKeys) !== null;
  const button = isReached ? (
    <VisuallyHidden>
      <div {...buttonProps} ref={spot} />
    </VisuallyHidden>
  ) : null;
  return { dropProps, beside, button };
}

/** Return what a height over a row means: half of its head, or a group itself in the middle. */
function besideAt(layer: Layer, head: HTMLElement | null, y: number): Beside {
  const share = y / (head?.getBoundingClientRect().height || 1) - 0.5;
  if (layer.kind === "group" && Math.abs(share) < INNER_SHARE) return "inside";
  return share < 0 ? "over" : "under";
}
