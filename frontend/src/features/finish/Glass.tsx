/** A glass over the picture: the file's own pixels, as they are written. */

import type { ReactElement } from "react";
import styled from "styled-components";
import type { Finishing } from "@/features/finish/useFinishing";
import { wayOf } from "@/model/arrows";
import { type FileFacts, isLayered } from "@/model/finishing";
import { color } from "@/theme/tokens";
import { useLook } from "@/work/useLook";

const WIDTH = 240;
const HEIGHT = 180;
const STEP = 0.02;
/** Looked at more than is shown, since what is looked at begins where a block does. */
const SLACK = 16;

const Frame = styled.div`
  position: absolute;
  right: 26px;
  bottom: 22px;
  z-index: 2;
  overflow: hidden;
  width: ${WIDTH + 10}px;
  height: ${HEIGHT + 10}px;
  border: 5px solid #ffffff;
  background: #ffffff;
  box-shadow: 0 4px 18px rgb(0 0 0 / 35%);

  /* It stands aside for what lies beneath it. */
  &[data-side="left"] {
    right: auto;
    left: 26px;
  }

  img {
    position: absolute;
    image-rendering: pixelated;
    max-width: none;
  }

  p {
    position: absolute;
    inset: auto 0 0;
    padding: 3px 8px;
    background: ${color.stageNote};
    color: ${color.stageNoteInk};
    font-size: 13px;
  }
`;

interface Place {
  readonly x: number;
  readonly y: number;
}

interface GlassProps {
  readonly finishing: Finishing;
  readonly facts: FileFacts;
  readonly at: Place;
  onMove(at: Place): void;
}

export function Glass(props: GlassProps): ReactElement | null {
  // Its layers are kept as they are: no pixels of all of them are written.
  return isLayered(props.finishing.settings.format) ? null : <Pixels {...props} />;
}

function Pixels({ finishing, facts, at, onMove }: GlassProps): ReactElement {
  const density = window.devicePixelRatio || 1;
  const width = Math.min(Math.round(WIDTH * density), facts.width);
  const height = Math.min(Math.round(HEIGHT * density), facts.height);
  const left = Math.round(at.x * (facts.width - width));
  const top = Math.round(at.y * (facts.height - height));
  const { look } = useLook(finishing.project.id, finishing.request, {
    x: left,
    y: top,
    width: width + SLACK,
    height: height + SLACK,
    scale: 1,
    marks: "none",
  });
  return (
    <Frame
      tabIndex={0}
      role="group"
      data-side={at.x > 0.55 && at.y > 0.5 ? "left" : "right"}
      aria-label="Single pixels, as saved; arrow keys move the glass"
      onKeyDown={(event) => {
        const way = wayOf(event.key);
        if (!way) return;
        event.preventDefault();
        onMove({ x: clamp(at.x + way[0] * STEP), y: clamp(at.y + way[1] * STEP) });
      }}
    >
      {look ? (
        <img
          src={look.url}
          alt=""
          draggable={false}
          style={{
            left: (look.x - look.seen.x) / density,
            top: (look.y - look.seen.y) / density,
            zoom: 1 / density,
          }}
        />
      ) : null}
      <p>pixel for pixel, as saved</p>
    </Frame>
  );
}

const clamp = (share: number): number => Math.min(Math.max(share, 0), 1);
