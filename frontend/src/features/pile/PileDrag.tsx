/** Dragging a layer through the pile by its handle, or moving it with arrow keys. */

import { GripVertical } from "lucide-react";
import {
  createContext,
  type ReactElement,
  type ReactNode,
  useContext,
  useMemo,
  useRef,
  useState,
} from "react";
import { useMove } from "react-aria";
import styled from "styled-components";
import { useDeskActions } from "@/features/desk/DeskContext";
import type { Layer } from "@/model/composite";
import { color } from "@/theme/tokens";

interface PileDrag {
  readonly count: number;
  /** The gap that the dragged layer would fall into, counted from the front. */
  readonly gap: number | null;
  setGap(gap: number | null): void;
}

const Context = createContext<PileDrag>({ count: 0, gap: null, setGap: () => undefined });

export const usePileDrag = (): PileDrag => useContext(Context);

const Handle = styled.div`
  flex: none;
  align-self: stretch;
  display: grid;
  place-items: center;
  width: 16px;
  margin: -10px 0 -10px -14px;
  color: ${color.ruleStrong};
  cursor: grab;
  touch-action: none;

  &:hover {
    color: ${color.ink};
  }
`;

interface ProviderProps {
  readonly count: number;
  readonly children: ReactNode;
}

export function PileDragProvider({ count, children }: ProviderProps): ReactElement {
  const [gap, setGap] = useState<number | null>(null);
  const drag = useMemo(() => ({ count, gap, setGap }), [count, gap]);
  return <Context.Provider value={drag}>{children}</Context.Provider>;
}

interface HandleProps {
  readonly layer: Layer;
  readonly row: number;
  /** The group that it lies in. */
  readonly into: string | null;
}

export function PileHandle({ layer, row, into }: HandleProps): ReactElement {
  const desk = useDeskActions();
  const { count, setGap } = usePileDrag();
  const handle = useRef<HTMLDivElement>(null);
  const travelled = useRef(0);
  const target = useRef<number | null>(null);
  const moveTo = (newRow: number) => {
    const index = count - 1 - Math.min(Math.max(newRow, 0), count - 1);
    if (newRow !== row) desk.edit({ kind: "move_layer", layer_id: layer.id, index, into });
  };
  const { moveProps } = useMove({
    onMoveStart: () => {
      travelled.current = 0;
      target.current = null;
    },
    onMove: (event) => {
      if (event.pointerType === "keyboard") {
        moveTo(row + Math.sign(event.deltaY));
        return;
      }
      travelled.current += event.deltaY;
      target.current = gapAt(handle.current, travelled.current);
      setGap(target.current);
    },
    onMoveEnd: (event) => {
      setGap(null);
      const gap = target.current;
      if (event.pointerType === "keyboard" || gap === null) return;
      // Taking the layer out closes its own gap.
      moveTo(gap > row ? gap - 1 : gap);
    },
  });
  return (
    <Handle
      {...moveProps}
      ref={handle}
      role="button"
      tabIndex={0}
      aria-label={`Move ${layer.name} in the pile; arrow up brings it forward`}
      title="Drag to move it in the pile"
    >
      <GripVertical size={14} aria-hidden="true" />
    </Handle>
  );
}

/** Return the gap nearest to where the handle has been dragged. */
function gapAt(handle: Element | null, travelled: number): number | null {
  const item = handle?.closest("li");
  const list = item?.parentElement;
  if (!item || !list) return null;
  const own = item.getBoundingClientRect();
  const at = own.top + 36 + travelled;
  const rows = [...list.children].map((row) => row.getBoundingClientRect());
  const gap = rows.findIndex((row) => at < row.top + row.height / 2);
  return gap === -1 ? rows.length : gap;
}
