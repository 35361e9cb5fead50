/** Makes a plan of a picture: which photos become slots, and what these are called. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactElement, useState } from "react";
import { Input, Label, TextField } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { fetchProject, makePlanOf, thumbnailUrl } from "@/api/calls";
import type { ProjectCard } from "@/api/types";
import { allLayers, type Composite } from "@/model/composite";
import { useMessages } from "@/state/messages";
import { color, font } from "@/theme/tokens";
import { StrongButton } from "@/ui/Button";
import { Sheet } from "@/ui/Sheet";
import { Tick } from "@/ui/Tick";
import { Words } from "@/ui/Words";

const Form = styled.form`
  display: grid;
  gap: 14px;
`;

const Field = styled(TextField)`
  display: grid;
  gap: 3px;
  font-size: 13px;
`;

const Line = styled(Input)`
  width: 100%;
  padding: 5px 8px;
  border: 1px solid ${color.ruleStrong};
  border-radius: 2px;
  background: ${color.paper};
  color: ${color.ink};
  font-family: ${font.reading};
  font-size: 15px;
`;

const Photos = styled.ul`
  display: grid;
  gap: 12px;
`;

const Photo = styled.li`
  display: grid;
  grid-template-columns: 72px minmax(0, 1fr);
  gap: 6px 14px;

  img {
    width: 72px;
    height: 72px;
    object-fit: cover;
  }
`;

const Said = styled.div`
  display: grid;
  gap: 6px;
`;

const LONGEST_TITLE = 80;
const LONGEST_SAID = 600;

interface MakePlanProps {
  readonly card: ProjectCard;
  onClose(): void;
}

/** What somebody says of a photo. */
interface Chosen {
  readonly isSlot: boolean;
  readonly title: string;
  readonly suits: string;
}

export function MakePlan({ card, onClose }: MakePlanProps): ReactElement {
  const project = useQuery({
    queryKey: ["versions", card.id, "now"],
    queryFn: () => fetchProject(card.id),
  });
  return (
    <Sheet title="A plan of this picture" isOpen onClose={onClose}>
      {project.error ? <p role="alert">{project.error.message}</p> : null}
      {project.isPending ? <p aria-busy="true">Fetching the picture…</p> : null}
      {project.data ? (
        <PlanForm card={card} photos={photosOf(project.data.composite)} onClose={onClose} />
      ) : null}
    </Sheet>
  );
}

interface PlanFormProps extends MakePlanProps {
  readonly photos: ReadonlyMap<string, string>;
}

function PlanForm({ card, photos, onClose }: PlanFormProps): ReactElement {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [title, setTitle] = useState(card.name.slice(0, LONGEST_TITLE));
  const [isMaking, setMaking] = useState(false);
  const [chosen, setChosen] = useState<Readonly<Record<string, Chosen>>>(() =>
    Object.fromEntries(
      [...photos].map(([picture, name]) => [
        picture,
        { isSlot: true, title: name.slice(0, LONGEST_TITLE), suits: "" },
      ]),
    ),
  );
  const change = (picture: string, changes: Partial<Chosen>) =>
    setChosen((now) => {
      const before = now[picture];
      return before ? { ...now, [picture]: { ...before, ...changes } } : now;
    });
  const slots = Object.entries(chosen).filter(([, one]) => one.isSlot);
  const isWhole = title.trim() !== "" && slots.every(([, one]) => one.title.trim() !== "");
  const make = () => {
    setMaking(true);
    const said = slots.map(([picture, one]) => ({
      picture,
      title: one.title.trim(),
      suits: one.suits.trim(),
    }));
    makePlanOf(card.id, { title: title.trim(), about: "", slots: said }).then(
      (plan) => {
        void client.invalidateQueries({ queryKey: ["plans"] });
        onClose();
        useMessages.getState().say(`${plan.title} is a plan now.`, {
          label: "Open it",
          run: () => void navigate(`/plan/${plan.name}`),
        });
      },
      (error: Error) => {
        setMaking(false);
        useMessages.getState().warn(error.message);
      },
    );
  };
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        if (isWhole && !isMaking) make();
      }}
    >
      <Words>
        Photos that you tick become places for others. How they lie, fade and are toned stays, and
        so do the words; what was cut out is cut out of other photos too.
      </Words>
      <Field value={title} onChange={setTitle} maxLength={LONGEST_TITLE}>
        <Label>What it is called</Label>
        <Line />
      </Field>
      {photos.size === 0 ? (
        <Words>There are no photos in it; its words can be changed.</Words>
      ) : null}
      <Photos aria-label="Its photos">
        {Object.entries(chosen).map(([picture, one]) => (
          <Photo key={picture}>
            <img src={thumbnailUrl(picture)} alt="" />
            <Said>
              <Tick isSelected={one.isSlot} onChange={(isSlot) => change(picture, { isSlot })}>
                {photos.get(picture)} {one.isSlot ? "can be exchanged" : "stays"}
              </Tick>
              {one.isSlot ? (
                <>
                  <Field
                    value={one.title}
                    onChange={(said) => change(picture, { title: said })}
                    maxLength={LONGEST_TITLE}
                  >
                    <Label>What its place is called</Label>
                    <Line />
                  </Field>
                  <Field
                    value={one.suits}
                    onChange={(said) => change(picture, { suits: said })}
                    maxLength={LONGEST_SAID}
                  >
                    <Label>What suits it</Label>
                    <Line placeholder="such as: from the side, on a plain wall" />
                  </Field>
                </>
              ) : null}
            </Said>
          </Photo>
        ))}
      </Photos>
      <StrongButton type="submit" isDisabled={!isWhole || isMaking}>
        Make the plan
      </StrongButton>
    </Form>
  );
}

/** Return the pictures that photos show, and what the first layer of each is called. */
function photosOf({ layers }: Pick<Composite, "layers">): ReadonlyMap<string, string> {
  const photos = allLayers(layers).filter((layer) => layer.kind === "photo");
  return new Map(photos.reverse().map(({ picture, name }) => [picture, name]));
}
