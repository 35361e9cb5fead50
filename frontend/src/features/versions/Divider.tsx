/** Two pictures in one place, with a line between them that is dragged across. */

import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { Print, type Seen } from "@/features/versions/Seen";
import { DividerLine } from "@/ui/DividerLine";

const Place = styled.div`
  position: relative;
  min-height: 0;
`;

const Over = styled.div`
  position: absolute;
  inset: 0;
`;

interface DividerProps {
  readonly left: Seen;
  readonly right: Seen;
}

export function Divider({ left, right }: DividerProps): ReactElement {
  const [place, setPlace] = useState(50);
  return (
    <Place>
      <Over>
        <Print seen={right} />
      </Over>
      <Over style={{ clipPath: `inset(0 ${100 - place}% 0 0)` }}>
        <Print seen={left} />
      </Over>
      <DividerLine
        label={`Divider: ${left.name} on its left, ${right.name} on its right`}
        place={place}
        onPlace={setPlace}
      />
    </Place>
  );
}
