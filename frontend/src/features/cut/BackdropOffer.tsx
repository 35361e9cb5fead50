/** What most people want first of a photo: its backdrop taken away. */

import type { ReactElement } from "react";
import styled from "styled-components";
import { v4 as newId } from "uuid";
import type { PhotoLayer } from "@/model/composite";
import { missingWords, roughLine } from "@/model/mattes";
import { useCutting } from "@/state/cutting";
import { useDesk } from "@/state/desk/desk";
import { font } from "@/theme/tokens";
import { PlainButton, StrongButton } from "@/ui/Button";
import { LiveWord } from "@/ui/LiveWord";
import { Progress } from "@/ui/Progress";
import { takeBackdropAway } from "@/work/cutting/cutOut";
import { useNetworks } from "@/work/cutting/useNetworks";
import { useDeskActions } from "@/work/DeskContext";

const Offer = styled.div`
  display: grid;
  gap: 8px;
  justify-items: start;

  p {
    font-family: ${font.reading};
    font-size: 15px;
    line-height: 1.4;
  }
`;

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  width: 100%;
`;

export function BackdropOffer({ layer }: { readonly layer: PhotoLayer }): ReactElement {
  const desk = useDeskActions();
  const { openLine } = useDesk((state) => state.actions);
  const isFinding = useCutting(({ findings }) => layer.id in findings);
  const { networks, isKnown } = useNetworks();
  const missing = isKnown ? missingWords(networks) : null;
  if (isFinding) return <FindingNow layer={layer} />;
  return (
    <Offer>
      <StrongButton
        isDisabled={isKnown && networks.length === 0}
        onPress={() => takeBackdropAway(desk, layer)}
      >
        Take the background away
      </StrongButton>
      <p>
        Or{" "}
        <LiveWord onPress={() => openLine(roughLine(newId()))}>
          paint roughly over what is to stay
        </LiveWord>
        .
      </p>
      {missing ? <p role="note">{missing}</p> : null}
    </Offer>
  );
}

/** How far a backdrop is found; the photo can be worked on meanwhile. */
export function FindingNow({ layer }: { readonly layer: PhotoLayer }): ReactElement | null {
  const finding = useCutting(({ findings }) => findings[layer.id]);
  if (!finding) return null;
  return (
    <Row role="status" aria-label="Finding the background">
      <span>{finding.shown ? "Going round its edge…" : "Looking for the subject…"}</span>
      <Progress label="Finding the background" share={finding.progress} />
      <PlainButton onPress={finding.stop}>Stop</PlainButton>
    </Row>
  );
}
