/** What is done with the file: saved, copied, printed, shared. */

import { type ReactElement, useState } from "react";
import styled from "styled-components";
import { exportUrl } from "@/api/calls";
import type { Finishing } from "@/features/finish/useFinishing";
import {
  type ComparedAs,
  embedding,
  type FileFormat,
  type FilePart,
  sayFormat,
} from "@/model/finishing";
import { useMessages } from "@/state/messages";
import { color } from "@/theme/tokens";
import { PlainButton, QuietButton, StrongButton } from "@/ui/Button";
import { Progress } from "@/ui/Progress";
import { useCopyPicture } from "@/work/useCopyPicture";
import type { Finish } from "@/work/useFinish";

const Foot = styled.div`
  display: grid;
  gap: 8px;
  padding: 12px 24px 16px;
  border-top: 1px solid ${color.rule};
`;

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
`;

const Saved = styled.a`
  color: ${color.live};
`;

const Embedding = styled.div`
  display: grid;
  gap: 4px;
  font-size: 13px;

  textarea {
    border: 1px solid ${color.rule};
    background: ${color.well};
    color: ${color.ink};
    font-size: 12px;
    resize: none;
  }
`;

interface FinishActionsProps {
  readonly finishing: Finishing;
  readonly finish: Finish;
}

export function FinishActions({ finishing, finish }: FinishActionsProps): ReactElement {
  const { settings, trouble, part } = finishing;
  const [isSaving, setSaving] = useState(false);
  const copy = useCopyPicture(finishing);
  const save = () => {
    setSaving(true);
    void finish.save().finally(() => setSaving(false));
  };
  const what = nameOf(settings.format, part);
  return (
    <Foot>
      {isSaving && finish.making.phase === "making" ? (
        <Row>
          <Progress label="Making the file" share={finish.making.progress} />
          <PlainButton onPress={finish.stop}>Stop</PlainButton>
        </Row>
      ) : null}
      <Row>
        <StrongButton isDisabled={trouble !== null || isSaving} onPress={save}>
          Save the {what}
        </StrongButton>
        <PlainButton isDisabled={trouble !== null || copy.isBusy} onPress={copy.copy}>
          {copy.isBusy ? "Copying…" : "Copy the picture"}
        </PlainButton>
        <Others finishing={finishing} finish={finish} />
      </Row>
      {finish.saved ? (
        <span role="status">
          Saved as{" "}
          <Saved href={exportUrl(finish.saved.jobId)} download>
            {finish.saved.name}
          </Saved>
        </span>
      ) : null}
      {finish.saved?.name.endsWith(".html") && finishing.facts ? (
        <Embedding>
          To show it in a page of your own, put the file beside that and this into it:
          <textarea
            readOnly
            rows={3}
            aria-label="What a page shows it by"
            value={embedding(finish.saved.name, finishing.facts)}
            onFocus={(event) => event.currentTarget.select()}
          />
        </Embedding>
      ) : null}
    </Foot>
  );
}

const MADE: Readonly<Record<ComparedAs, string>> = {
  page: "page",
  pair: "pair",
  webp: "moving WebP",
  gif: "moving GIF",
  mp4: "film",
};

function nameOf(format: FileFormat, part: FilePart): string {
  if (part.what === "compare") return MADE[part.compare.made_as];
  if (part.what === "apart") return "pictures";
  return format === "openraster" ? "layers" : sayFormat(format);
}

/** What not every browser can do, and what not every file is for. */
function Others({ finishing, finish }: FinishActionsProps): ReactElement {
  const { settings, part, project } = finishing;
  const warn = useMessages((messages) => messages.warn);
  const { making } = finish;
  const share = async () => {
    const file = await finish.file();
    if (!file) return;
    const answer = await fetch(exportUrl(file.jobId));
    const shared = new File([await answer.blob()], file.name, {
      type: answer.headers.get("Content-Type") ?? "",
    });
    await navigator.share({ files: [shared], title: project.name });
  };
  const told = (error: Error) => {
    if (error.name !== "AbortError") warn(`It could not be handed on: ${error.message}`);
  };
  return (
    <>
      {settings.format === "pdf" && part.what !== "compare" ? (
        making.phase === "made" ? (
          // A window that opens later than the press would be held back by the browser.
          <Saved
            href={`${exportUrl(making.file.jobId)}?shown=1`}
            target="_blank"
            rel="noopener"
            onClick={() => void finish.file()}
          >
            Print…
          </Saved>
        ) : (
          <QuietButton isDisabled={making.phase === "making"} onPress={() => void finish.file()}>
            Make it for printing
          </QuietButton>
        )
      ) : null}
      {"share" in navigator ? (
        <QuietButton onPress={() => void share().catch(told)}>Share…</QuietButton>
      ) : null}
    </>
  );
}
