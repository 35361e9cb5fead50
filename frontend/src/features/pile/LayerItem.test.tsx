import { replaceEqualDeep } from "@tanstack/react-query";
import { act, cleanup } from "@testing-library/react";
import { memo, Profiler, type ReactElement } from "react";
import { afterEach, expect, test } from "vitest";
import { LayerItem } from "@/features/pile/LayerItem";
import type { Edit, Layer } from "@/model/composite";
import { withEdits } from "@/model/expected";
import { standingAfter } from "@/model/standing";
import { useComposite } from "@/state/project";
import { deskWith, showOnDesk } from "@/testing/desk";
import { sampleComposite, sampleLayer, sampleState } from "@/testing/samples";

afterEach(cleanup);

interface RowProps {
  readonly layer: Layer;
  onDrawn(id: string): void;
}

/** Without it, whatever is drawn would count as all of its rows. */
const Row = memo(function Row({ layer, onDrawn }: RowProps): ReactElement {
  return (
    <Profiler id={layer.id} onRender={onDrawn}>
      <LayerItem layer={layer} />
    </Profiler>
  );
});

function Rows({ onDrawn }: Pick<RowProps, "onDrawn">): ReactElement {
  const shown = useComposite()?.layers ?? [];
  return (
    <ul>
      {shown.map((layer) => (
        <Row key={layer.id} layer={layer} onDrawn={onDrawn} />
      ))}
    </ul>
  );
}

test("a change of one layer draws the row of no other anew", () => {
  const layers = [sampleLayer("back"), sampleLayer("front")];
  const drawn: string[] = [];
  const desk = deskWith(...layers);
  showOnDesk(desk, <Rows onDrawn={(id) => drawn.push(id)} />);
  const before = sampleState({ composite: sampleComposite(...layers) });
  const edit: Edit = { kind: "name_layer", layer_id: "front", name: "Moth" };
  const answer = structuredClone({
    ...before,
    head: "second",
    changes: 2,
    composite: withEdits(before.composite, [edit]),
  });
  drawn.length = 0;

  act(() => {
    const sent = { kind: "edit", key: "second", edit } as const;
    desk.project.stand(standingAfter(before, new Map(), [sent]), 1);
  });
  act(() => {
    const state = replaceEqualDeep(before, answer);
    desk.project.stand(standingAfter(state, new Map(), []), 0);
  });

  expect(new Set(drawn)).toEqual(new Set(["front"]));
});
