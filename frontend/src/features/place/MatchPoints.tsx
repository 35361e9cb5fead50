/** Matching points of two photos by hand: what to point at next, and each by number. */

import { PAIR } from "@generated/limits";
import type { ReactElement } from "react";
import { useEffect } from "react";
import styled from "styled-components";
import type { PhotoLayer } from "@/model/composite";
import type { Point } from "@/model/points";
import { useDesk } from "@/state/desk/desk";
import { halfOf, type MatchedPair, MOST_PAIRS, useMatching } from "@/state/matching";
import { PlainButton } from "@/ui/Button";
import { NumberBox } from "@/ui/NumberBox";
import { Words } from "@/ui/Words";

const Four = styled.div`
  display: grid;
  grid-template-columns: auto repeat(2, minmax(0, 1fr));
  align-items: center;
  gap: 6px 8px;
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;

interface MatchPointsProps {
  readonly moving: PhotoLayer;
  readonly fixed: PhotoLayer;
}

export function MatchPoints({ moving, fixed }: MatchPointsProps): ReactElement {
  const { pairs, begin, set, end } = useMatching();
  const { setSeeThrough } = useDesk((desk) => desk.actions);
  const half = halfOf(pairs);
  const isHalf = half !== undefined;
  useEffect(() => {
    begin({ moving: moving.id, fixed: fixed.id });
    return end;
  }, [moving.id, fixed.id, begin, end]);
  // To point at what lies behind, the photo in front is looked through.
  useEffect(() => {
    setSeeThrough(isHalf);
    return () => setSeeThrough(false);
  }, [isHalf, setSeeThrough]);
  const place = pairs.length + (isHalf ? 0 : 1);
  const middle = ({ width, height }: PhotoLayer) => ({ x: width / 2, y: height / 2 });
  return (
    <>
      <Words role="status">
        {isHalf
          ? `Now point at the same place ${place} in ${fixed.name}.`
          : pairs.length < MOST_PAIRS
            ? `Point at a place ${place} in ${moving.name} that both show.`
            : "Four places are matched."}
      </Words>
      {pairs.map((pair, at) => (
        <PairNumbers
          // biome-ignore lint/suspicious/noArrayIndexKey: a pair has no other name
          key={at}
          place={at + 1}
          pair={pair}
          names={[moving.name, fixed.name]}
          onChange={(changed) => set(pairs.map((one, other) => (other === at ? changed : one)))}
        />
      ))}
      <Row>
        <PlainButton
          isDisabled={isHalf || pairs.length >= MOST_PAIRS}
          onPress={() => set([...pairs, { moving: middle(moving), fixed: middle(fixed) }])}
        >
          Add a place by numbers
        </PlainButton>
        <PlainButton isDisabled={pairs.length === 0} onPress={() => set(pairs.slice(0, -1))}>
          Take the last away
        </PlainButton>
      </Row>
    </>
  );
}

interface PairNumbersProps {
  readonly place: number;
  readonly pair: MatchedPair;
  readonly names: readonly [string, string];
  onChange(pair: MatchedPair): void;
}

const { minimum, maximum } = PAIR.moving.each;

function PairNumbers({ place, pair, names, onChange }: PairNumbersProps): ReactElement {
  const row = (which: "moving" | "fixed", name: string, at: Point) => {
    const box = (axis: "x" | "y", way: string) => (
      <NumberBox
        label={`Place ${place} in ${name}, ${way}`}
        hideLabel
        value={Math.round(at[axis] * 10) / 10}
        min={minimum}
        max={maximum}
        step={0.1}
        digits={1}
        unit="px"
        onChange={(pixels) => onChange({ ...pair, [which]: { ...at, [axis]: pixels } })}
      />
    );
    return (
      <>
        <span aria-hidden="true">
          {place} {which === "moving" ? "here" : "there"}
        </span>
        {box("x", "across")}
        {box("y", "down")}
      </>
    );
  };
  return (
    <Four>
      {row("moving", names[0], pair.moving)}
      {pair.fixed ? row("fixed", names[1], pair.fixed) : null}
    </Four>
  );
}
