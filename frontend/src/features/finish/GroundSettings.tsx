/** What a picture is laid on: a ground of some shape, or a colour behind it. */

import type { ReactElement } from "react";
import type { Finishing } from "@/features/finish/useFinishing";
import { ColorWell } from "@/ui/ColorWell";
import { FieldRow, Fields } from "@/ui/Fields";
import { NumberBox } from "@/ui/NumberBox";
import { Tick } from "@/ui/Tick";

const SQUARE = { across: 1, down: 1, color: "#ffffff" };

export function GroundSettings({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { settings, change } = finishing;
  const { ground, matte } = settings;
  return (
    <Fields>
      <Tick
        isSelected={ground !== null}
        onChange={(isOn) => change({ ground: isOn ? { ...SQUARE, color: matte } : null })}
      >
        on a ground of one shape, in its middle
      </Tick>
      {ground ? (
        <FieldRow>
          <NumberBox
            label="Shape"
            value={ground.across}
            min={1}
            max={100}
            step={1}
            onChange={(across) => change({ ground: { ...ground, across } })}
          />
          <NumberBox
            label="to"
            value={ground.down}
            min={1}
            max={100}
            step={1}
            onChange={(down) => change({ ground: { ...ground, down } })}
          />
        </FieldRow>
      ) : null}
      <FieldRow>
        <ColorWell
          label={ground ? "Colour of the ground" : "Colour behind see-through places"}
          value={ground?.color ?? matte}
          onChange={(color) => change(ground ? { ground: { ...ground, color } } : { matte: color })}
        />
        <span>{ground ? "the ground's colour" : "lies behind see-through places"}</span>
      </FieldRow>
    </Fields>
  );
}
