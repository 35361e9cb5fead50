/** The file as it will be seen: on its ground, cut as it will be, or pixel for pixel. */

import {
  type PointerEvent,
  type ReactElement,
  type ReactNode,
  useEffect,
  useRef,
  useState,
} from "react";
import styled from "styled-components";
import { CropFrame } from "@/features/finish/CropFrame";
import { CutMarks } from "@/features/finish/CutMarks";
import { Glass } from "@/features/finish/Glass";
import { PixelView } from "@/features/finish/PixelView";
import type { Finishing } from "@/features/finish/useFinishing";
import { fitted, type Ground, type Seeing } from "@/model/fileGrounds";
import { isLayered, WHOLE } from "@/model/finishing";
import { color } from "@/theme/tokens";
import { useLook } from "@/work/useLook";

const Room = styled.section`
  position: relative;
  display: grid;
  place-items: center;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  background: #8b8b8b;

  &[data-ground="white"] {
    background: #ffffff;
  }

  &[data-ground="black"] {
    background: #000000;
  }
`;

const Phone = styled.div`
  display: grid;
  place-items: center;
  aspect-ratio: 9 / 18;
  padding: 0 10px;
  border: 10px solid #2c2d30;
  border-width: 30px 10px;
  border-radius: 30px;
  background: #0c0d0e;
  box-shadow: 0 10px 30px rgb(0 0 0 / 35%);
`;

const Bare = styled.div``;

const Paper = styled.figure`
  position: relative;
  margin: 0;
  background: radial-gradient(#a9a59c 1px, #eceae5 1.2px) 0 0 / 9px 9px;

  &[data-ground="paper"] {
    box-shadow: 0 2px 14px rgb(0 0 0 / 35%);
  }

  /* Where the file has the page's own colour, its edges are told. */
  &[data-ground="white"],
  &[data-ground="black"] {
    outline: 1px dashed rgb(128 128 128 / 45%);
  }

  > img {
    display: block;
    width: 100%;
    height: 100%;
    user-select: none;
  }

  > img[data-stale="true"] {
    opacity: 0.75;
  }
`;

const Note = styled.p`
  position: absolute;
  top: 12px;
  left: 14px;
  z-index: 2;
  padding: 6px 12px;
  background: ${color.stageNote};
  color: ${color.stageNoteInk};
`;

const EDGE = 76;
const GLASS_ROOM = 250;
const PHONE_SHAPE = 0.46;
const NOTHING = { width: 0, height: 0 };

interface FileStageProps {
  readonly finishing: Finishing;
  readonly ground: Ground;
  readonly seeing: Seeing;
  readonly isMarked: boolean;
  readonly isCropping: boolean;
  /** Hears which share of it no ink reaches. */
  onOutside(share: number): void;
}

export function FileStage(props: FileStageProps): ReactElement {
  const { finishing, ground, seeing } = props;
  const room = useRef<HTMLElement>(null);
  const size = useSizeOf(room);
  const { facts, settings } = finishing;
  return (
    <Room ref={room} aria-label="How it will look" data-ground={ground}>
      {facts && size.width > 0 ? (
        seeing === "pixels" && !props.isCropping && !isLayered(settings.format) ? (
          <PixelView finishing={finishing} facts={facts} room={size} isMarked={props.isMarked} />
        ) : (
          <WholeView {...props} room={size} />
        )
      ) : null}
    </Room>
  );
}

interface WholeViewProps extends FileStageProps {
  readonly room: { readonly width: number; readonly height: number };
}

function WholeView(props: WholeViewProps): ReactElement | null {
  const { finishing, isCropping } = props;
  const { facts, project, settings } = finishing;
  const [at, setAt] = useState({ x: 0.5, y: 0.5 });
  const { ground, fit, look, trouble, isFetching } = useWhole(props);
  if (!facts) return null;
  const Around = ground === "phone" ? Phone : Bare;
  return (
    <>
      <Told trouble={trouble}>{sayWhat(finishing, isCropping)}</Told>
      <Around style={{ translate: `${-besideGlass(props.room.width, fit.width)}px 0` }}>
        <Paper
          style={{ width: Math.max(fit.width, 1), height: Math.max(fit.height, 1) }}
          data-ground={ground}
          onPointerMove={(event) => setAt(placeIn(event))}
        >
          {look ? (
            <img src={look.url} alt={project.name} draggable={false} data-stale={isFetching} />
          ) : null}
          {isCropping ? (
            <CropFrame finishing={finishing} scale={fit.scale} />
          ) : (
            <CutMarks facts={facts} settings={settings} />
          )}
        </Paper>
      </Around>
      {isCropping ? null : <Glass finishing={finishing} facts={facts} at={at} onMove={setAt} />}
    </>
  );
}

/** All of the file, as large as there is room; while a part is drawn, all of the sheet. */
function useWhole({ finishing, isCropping, isMarked, room, onOutside, ...props }: WholeViewProps) {
  const { facts, project } = finishing;
  const density = window.devicePixelRatio || 1;
  const ground: Ground = isCropping ? "paper" : props.ground;
  const request = isCropping ? { ...finishing.request, ...WHOLE_SHEET } : finishing.request;
  const file = isCropping ? project.composite.canvas : (facts ?? NOTHING);
  const fit = fitted(file, roomOn(ground, room), density);
  const { look, trouble, isFetching } = useLook(project.id, request, {
    ...wholeAt(file, fit.scale * density),
    marks: isMarked ? "gamut" : "none",
  });
  const outside = look?.outside ?? 0;
  useEffect(() => onOutside(outside), [outside, onOutside]);
  return { ground, fit, look, trouble, isFetching };
}

interface Sides {
  readonly width: number;
  readonly height: number;
}

function roomOn(ground: Ground, room: Sides): Sides {
  const height = room.height - 2 * EDGE;
  if (ground !== "phone") return { width: room.width - 2 * EDGE, height };
  return { width: height * PHONE_SHAPE, height };
}

/** How far a picture moves aside so that the glass hides nothing of it, if it can. */
function besideGlass(room: number, width: number): number {
  const free = (room - width) / 2;
  return free > EDGE ? Math.min(free - EDGE / 2, GLASS_ROOM / 2) : 0;
}

function wholeAt({ width, height }: Sides, scale: number) {
  // Even what is small on the screen is at least a pixel.
  const least = 1 / Math.max(width, height);
  return { x: 0, y: 0, width, height, scale: Math.min(1, Math.max(scale, least)) };
}

const WHOLE_SHEET = {
  crop: null,
  piece: null,
  apart: [],
  chosen: [],
  ground: null,
  tiling: null,
  size: { by: "share", share: 1 },
  paper: { bleed_mm: 0, bleed_from: "enlarged", marks: false, bar: false },
} as const;

interface ToldProps {
  readonly trouble: string | null;
  readonly children: ReactNode;
}

function Told({ trouble, children }: ToldProps): ReactElement {
  return trouble ? <Note role="alert">{trouble}</Note> : <Note>{children}</Note>;
}

function sayWhat({ settings, part }: Finishing, isCropping: boolean): string {
  if (isCropping) return "Draw which part is saved";
  if (isLayered(settings.format)) return "All layers put together, as it opens elsewhere";
  if (settings.tiling) return "The whole poster, before it is cut into sheets";
  if (settings.paper.bleed_mm > 0) return "As it will be cut, with the bleed around";
  if (part.what === "compare") return "The picture as it is; the file compares it";
  if (part.what === "apart") return "All of them together; each is saved by itself";
  return part === WHOLE ? "As it will be saved" : "That part of it, as it will be saved";
}

function placeIn(event: PointerEvent): { x: number; y: number } {
  const { clientX: x, clientY: y } = event;
  const box = event.currentTarget.getBoundingClientRect();
  const share = (at: number, from: number, length: number) =>
    Math.min(Math.max((at - from) / Math.max(length, 1), 0), 1);
  return { x: share(x, box.left, box.width), y: share(y, box.top, box.height) };
}

function useSizeOf(ref: { readonly current: HTMLElement | null }) {
  const [size, setSize] = useState(NOTHING);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      if (!entry) return;
      const { width, height } = entry.contentRect;
      setSize({ width, height });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref]);
  return size;
}
