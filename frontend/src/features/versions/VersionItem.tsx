/** One version in the list beside those that are compared. */

import { MOMENT_NAME } from "@generated/limits";
import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { previewUrl } from "@/api/calls";
import type { Seen } from "@/features/versions/Seen";
import { sayWhen } from "@/model/wording";
import { color, font } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";
import { NameField } from "@/ui/NameField";
import { useVersionActions } from "@/work/useVersions";

const Item = styled.li`
  display: grid;
  gap: 4px;
  padding: 14px 16px 10px;
  border-bottom: 1px solid ${color.rule};

  img {
    width: 100%;
    max-height: 150px;
    object-fit: contain;
    object-position: left;
  }
`;

const Name = styled.h2`
  font-family: ${font.name};
  font-size: 15px;
  font-weight: 700;
  overflow-wrap: anywhere;

  &::first-letter {
    text-transform: uppercase;
  }
`;

const When = styled.p`
  color: ${color.softInk};
  font-family: ${font.reading};
  font-size: 13.5px;
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  margin-left: -6px;
`;

interface VersionItemProps {
  readonly seen: Seen;
  /** When it was named; null where it has no name. */
  readonly at: string | null;
}

export function VersionItem({ seen, at }: VersionItemProps): ReactElement {
  const { projectId, revision, name } = seen;
  const actions = useVersionActions(projectId);
  const [renaming, setRenaming] = useState(false);
  return (
    <Item>
      <img src={previewUrl(projectId, revision, 480)} alt="" loading="lazy" />
      <Name>
        {renaming ? (
          <NameField
            longest={MOMENT_NAME.name.maxLength}
            label={`Name of ${name}`}
            name={name}
            onName={(next) => actions.name(revision, next)}
            onLeave={() => setRenaming(false)}
          />
        ) : (
          name
        )}
      </Name>
      {at ? <When>named {sayWhen(at)}</When> : null}
      <Row>
        <QuietButton aria-label={`Open ${name}`} onPress={() => actions.open(revision)}>
          Open
        </QuietButton>
        <QuietButton
          aria-label={`As a picture of its own: ${name}`}
          onPress={() => actions.copy(revision)}
        >
          As a picture of its own
        </QuietButton>
        {at ? (
          <>
            <QuietButton aria-label={`Rename ${name}`} onPress={() => setRenaming(true)}>
              Rename
            </QuietButton>
            <QuietButton
              aria-label={`Forget the name ${name}`}
              onPress={() => actions.forget(seen)}
            >
              Forget the name
            </QuietButton>
          </>
        ) : null}
      </Row>
    </Item>
  );
}
