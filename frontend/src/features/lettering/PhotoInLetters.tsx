/** A photo of the shelf, held inside the letters. */

import { useQuery } from "@tanstack/react-query";
import type { ReactElement } from "react";
import { MenuTrigger } from "react-aria-components";
import { fetchShelf } from "@/api/calls";
import type { WordsLayer } from "@/model/composite";
import { PlainButton } from "@/ui/Button";
import { Card } from "@/ui/LiveSelect";
import { useDeskActions } from "@/work/DeskContext";
import { holdPhoto } from "@/work/lettering";
import { PictureChoices } from "@/work/PictureChoices";

interface PhotoInLettersProps {
  readonly layer: WordsLayer;
  readonly isOff: boolean;
}

export function PhotoInLetters({ layer, isOff }: PhotoInLettersProps): ReactElement {
  const desk = useDeskActions();
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: fetchShelf });
  const pictures = shelf.data ?? [];
  return (
    <MenuTrigger>
      <PlainButton isDisabled={isOff || pictures.length === 0}>A photo in the letters…</PlainButton>
      <Card>
        <PictureChoices pictures={pictures} onTake={(picture) => holdPhoto(desk, layer, picture)} />
      </Card>
    </MenuTrigger>
  );
}
