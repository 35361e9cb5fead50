/** What the moment that the desk shows is called, and the other moments with names. */

import { MOMENT_NAME } from "@generated/limits";
import { type FormEvent, type ReactElement, useState } from "react";
import { Button, Dialog, DialogTrigger, Input, Label, TextField } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { previewUrl } from "@/api/calls";
import type { Version } from "@/api/types";
import { sayWhen } from "@/model/wording";
import { useMessages } from "@/state/messages";
import { savedRevision, useProject } from "@/state/project";
import { color, font } from "@/theme/tokens";
import { StrongButton } from "@/ui/Button";
import { Card } from "@/ui/LiveSelect";
import { useDeskActions } from "@/work/DeskContext";
import { useVersionActions, useVersions } from "@/work/useVersions";

const Word = styled(Button)`
  flex: none;
  overflow: hidden;
  max-width: 150px;
  padding: 2px 0;
  border: 0;
  background: none;
  color: ${color.live};
  font-family: ${font.reading};
  font-size: 15px;
  text-decoration: underline;
  text-decoration-color: ${color.liveRule};
  text-decoration-thickness: 1px;
  text-overflow: ellipsis;
  text-underline-offset: 4px;
  white-space: nowrap;
  cursor: pointer;

  @media (max-width: 1180px) {
    max-width: 132px;
    font-size: 13.5px;
  }
`;

const Panel = styled(Dialog)`
  display: grid;
  gap: 14px;
  width: 330px;
  padding: 14px;
  outline: none;
`;

const Form = styled.form`
  display: grid;
  gap: 10px;
  justify-items: start;
`;

const Field = styled(TextField)`
  display: grid;
  gap: 4px;
  width: 100%;
  font-family: ${font.reading};
`;

const Box = styled(Input)`
  padding: 5px 8px;
  border: 1px solid ${color.ruleStrong};
  border-radius: 2px;
  background: ${color.paper};
  color: ${color.ink};
  font-family: ${font.control};
`;

const Moments = styled.ul`
  display: grid;
  overflow: auto;
  max-height: 300px;
  border-top: 1px solid ${color.rule};
`;

const Moment = styled(Button)`
  display: grid;
  grid-template-columns: 56px 1fr;
  gap: 0 12px;
  align-items: center;
  width: 100%;
  padding: 7px 4px;
  border: 0;
  border-bottom: 1px solid ${color.rule};
  background: none;
  text-align: left;
  cursor: pointer;

  &[data-hovered] {
    background: ${color.well};
  }

  &[aria-current="true"] strong {
    color: ${color.on};
  }

  img {
    grid-row: 1 / 3;
    width: 56px;
    height: 42px;
    object-fit: contain;
  }

  small {
    color: ${color.softInk};
  }
`;

export function MomentName(): ReactElement {
  const desk = useDeskActions();
  const head = useProject(({ known }) => known?.head);
  const versions = useVersions(desk.projectId).data ?? [];
  const called = versions.find(({ revision }) => revision === head)?.name;
  return (
    <DialogTrigger>
      <Word aria-label={called ? `This moment: ${called}` : "Name this moment"}>
        {called ?? "name this moment"}
      </Word>
      <Card placement="bottom start">
        <Panel aria-label="Names of moments">
          {({ close }) => (
            <>
              <NameForm key={head} called={called ?? ""} onDone={close} />
              {versions.length > 0 ? (
                <Named versions={versions} head={head} onDone={close} />
              ) : (
                <p>
                  Named moments hang behind the print on the wall, to be compared and gone on from.
                </p>
              )}
            </>
          )}
        </Panel>
      </Card>
    </DialogTrigger>
  );
}

interface NameFormProps {
  readonly called: string;
  onDone(): void;
}

function NameForm({ called, onDone }: NameFormProps): ReactElement {
  const desk = useDeskActions();
  const actions = useVersionActions(desk.projectId);
  const [draft, setDraft] = useState(called);
  const name = draft.trim();
  const keep = (event: FormEvent) => {
    event.preventDefault();
    savedRevision().then(
      (revision) => actions.name(revision, name),
      (error: Error) => useMessages.getState().warn(error.message),
    );
    onDone();
  };
  return (
    <Form onSubmit={keep}>
      <Field value={draft} onChange={setDraft} maxLength={MOMENT_NAME.name.maxLength} autoFocus>
        <Label>{called ? "This moment is called" : "How it is now shall be called"}</Label>
        <Box placeholder="such as: without the moths" />
      </Field>
      <StrongButton type="submit" isDisabled={name === "" || name === called}>
        {called ? "Call it that" : "Keep it under this name"}
      </StrongButton>
    </Form>
  );
}

interface NamedProps {
  readonly versions: readonly Version[];
  readonly head: string | undefined;
  onDone(): void;
}

function Named({ versions, head, onDone }: NamedProps): ReactElement {
  const desk = useDeskActions();
  return (
    <>
      <Moments aria-label="Moments with names">
        {versions.map((version) => (
          <li key={version.revision}>
            <Moment
              aria-current={version.revision === head}
              onPress={() => {
                if (version.revision !== head) desk.stand(version.revision);
                onDone();
              }}
            >
              <img src={previewUrl(desk.projectId, version.revision, 120)} alt="" loading="lazy" />
              <strong>{version.name}</strong>
              <small>{version.revision === head ? "this moment" : sayWhen(version.at)}</small>
            </Moment>
          </li>
        ))}
      </Moments>
      <Link to={`/versions/${desk.projectId}`}>Compare them</Link>
    </>
  );
}
