/** Before and after: what is compared, how both are called, and what is made of them. */

import { COMPARISON } from "@generated/limits";
import { useQuery } from "@tanstack/react-query";
import type { ReactElement } from "react";
import { Input, Label, TextField } from "react-aria-components";
import styled from "styled-components";
import { fetchVersions } from "@/api/calls";
import type { Finishing } from "@/features/finish/useFinishing";
import { COMPARED_AS, type ComparedAs, type Comparison, savedAlone } from "@/model/finishing";
import { color } from "@/theme/tokens";
import { Choice } from "@/ui/Choice";
import { Fields } from "@/ui/Fields";
import { LiveSelect } from "@/ui/LiveSelect";

type Side = Comparison["before"];

const Caption = styled(TextField)`
  display: flex;
  gap: 8px;
  align-items: center;

  input {
    flex: 1;
    padding: 4px 8px;
    border: 1px solid ${color.rule};
    border-radius: 2px;
    background: ${color.sheet};
    color: ${color.ink};
  }
`;

interface CompareSettingsProps {
  readonly finishing: Finishing;
  readonly compare: Comparison;
}

export function CompareSettings({ finishing, compare }: CompareSettingsProps): ReactElement {
  const { project, setPart } = finishing;
  const versions = useQuery({
    queryKey: ["versions", project.id],
    queryFn: () => fetchVersions(project.id),
  });
  const change = (changes: Partial<Comparison>) =>
    setPart({ what: "compare", compare: { ...compare, ...changes } });
  const layers = savedAlone(project.composite);
  const sides: readonly { readonly side: Side; readonly label: string }[] = [
    { side: { of: "picture" }, label: "the picture as it is" },
    ...(versions.data ?? []).map(({ revision, name }) => ({
      side: { of: "moment", revision } as const,
      label: `as it was: ${name}`,
    })),
    ...layers.map(({ id, name }) => ({
      side: { of: "without", layer: id } as const,
      label: `without ${name}`,
    })),
    ...layers.map(({ id, name }) => ({
      side: { of: "alone", layer: id } as const,
      label: `${name} alone`,
    })),
  ];
  const choices = sides.map(({ side, label }) => ({ id: JSON.stringify(side), label }));
  const select = (label: string, side: Side, onSide: (side: Side) => void) => (
    <LiveSelect
      label={label}
      value={JSON.stringify(side)}
      choices={choices}
      onChange={(id) => onSide(JSON.parse(id) as Side)}
    />
  );
  return (
    <Fields>
      <p>
        {select("Before", compare.before, (before) => change({ before }))}, and then{" "}
        {select("After", compare.after, (after) => change({ after }))}
      </p>
      <Caption
        value={compare.before_caption}
        maxLength={COMPARISON.before_caption.maxLength}
        onChange={(before_caption) => change({ before_caption })}
      >
        <Label>Called</Label>
        <Input />
      </Caption>
      <Caption
        value={compare.after_caption}
        maxLength={COMPARISON.after_caption.maxLength}
        onChange={(after_caption) => change({ after_caption })}
      >
        <Label>and</Label>
        <Input />
      </Caption>
      <Choice<ComparedAs>
        label="Made into"
        value={compare.made_as}
        choices={COMPARED_AS}
        onChange={(made_as) => change({ made_as })}
      />
    </Fields>
  );
}
