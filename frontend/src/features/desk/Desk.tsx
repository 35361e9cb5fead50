/** The desk: one project, open for work. */

import { type ReactElement, useCallback, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { DeskHeader } from "@/features/desk/DeskHeader";
import { KeyboardMap } from "@/features/desk/KeyboardMap";
import { ParkedNote } from "@/features/desk/ParkedNote";
import { PileEdge, usePileWidth } from "@/features/desk/PileEdge";
import { Stage } from "@/features/desk/Stage";
import { useDeskSync } from "@/features/desk/useDeskSync";
import { useIncoming } from "@/features/desk/useIncoming";
import { useKeptFocus } from "@/features/desk/useKeptFocus";
import { useKeyboard } from "@/features/desk/useKeyboard";
import { Pile } from "@/features/pile/Pile";
import { Shelf } from "@/features/shelf/Shelf";
import { TryStrip } from "@/features/tries/TryStrip";
import { useDesk } from "@/state/desk/desk";
import { useMessages } from "@/state/messages";
import { savedRevision } from "@/state/project";
import { font } from "@/theme/tokens";
import { Boundary } from "@/ui/Boundary";
import { StrongButton } from "@/ui/Button";
import { type DeskActions, DeskContext } from "@/work/DeskContext";
import { useBegun } from "@/work/useBegun";
import { useFontsAtHand } from "@/work/useFonts";

const Page = styled.main`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  height: 100dvh;
`;

const Top = styled.div`
  min-width: 0;
`;

const Middle = styled.div`
  display: grid;
  min-height: 0;
`;

const Work = styled.div`
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-width: 0;
  min-height: 0;
`;

const Alone = styled.main`
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 16px;
  height: 100dvh;
  padding: 24px;
  font-family: ${font.reading};
  font-size: 17px;
  text-align: center;
`;

export function Desk(): ReactElement {
  const { projectId = "" } = useParams();
  const sync = useDeskSync(projectId);
  if (sync.phase === "loading") return <Alone aria-busy="true">Fetching the picture…</Alone>;
  if (sync.phase === "failed") {
    return (
      <Alone>
        <p role="alert">{sync.reason}</p>
        <StrongButton onPress={sync.retry}>Try again</StrongButton>
        <Link to="/">Back to the wall</Link>
      </Alone>
    );
  }
  return (
    <DeskContext.Provider value={sync.actions}>
      <OpenDesk desk={sync.actions} />
    </DeskContext.Provider>
  );
}

function OpenDesk({ desk }: { readonly desk: DeskActions }): ReactElement {
  const finish = useToFinish(desk.projectId);
  const [mapShown, setMapShown] = useState(false);
  const showMap = useCallback(() => setMapShown(true), []);
  useKeyboard(desk, showMap);
  useIncoming(desk);
  useKeptFocus();
  useBegun();
  useFontsAtHand();
  const pileWidth = usePileWidth();
  return (
    <Page>
      <Top>
        <DeskHeader onFinish={finish} onShowMap={showMap} />
        <ParkedNote onSaveCopy={finish} />
      </Top>
      <Middle style={{ gridTemplateColumns: `${pileWidth}px auto minmax(0, 1fr)` }}>
        <Boundary what="The pile">
          <Pile />
        </Boundary>
        <PileEdge />
        <Work>
          <Boundary what="The stage">
            <Stage />
          </Boundary>
          <Boundary what="The strip of ways to try">
            <TryStrip />
          </Boundary>
        </Work>
      </Middle>
      <Boundary what="The shelf">
        <Shelf />
      </Boundary>
      <KeyboardMap isOpen={mapShown} onClose={() => setMapShown(false)} />
    </Page>
  );
}

/** Go to where the picture is finished, once everything that was done is saved. */
function useToFinish(projectId: string): () => void {
  const navigate = useNavigate();
  const warn = useMessages((messages) => messages.warn);
  return useCallback(() => {
    savedRevision().then(
      () => navigate(`/finish/${projectId}`, { state: { layer: useDesk.getState().openLayer } }),
      (error: Error) => warn(error.message),
    );
  }, [projectId, navigate, warn]);
}
