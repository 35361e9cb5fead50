/** Messages at the foot of the page, read out as they come. */

import { X } from "lucide-react";
import { type ReactElement, useEffect } from "react";
import styled from "styled-components";
import { color } from "@/theme/tokens";
import { QuietButton } from "@/ui/Button";

export interface ShownMessage {
  readonly id: number;
  readonly tone: "news" | "trouble";
  readonly text: string;
  readonly actions: readonly { readonly label: string; run(): void }[];
}

interface MessagesProps {
  readonly messages: readonly ShownMessage[];
  onDismiss(id: number): void;
}

const NEWS_MS = 8000;
/** What offers something is thought about. */
const OFFER_MS = 20_000;

const Stack = styled.div`
  position: fixed;
  right: 16px;
  bottom: 52px;
  z-index: 30;
  display: grid;
  gap: 8px;
  width: min(380px, calc(100vw - 32px));
`;

const Note = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 8px;
  position: relative;
  padding: 10px 34px 10px 14px;
  border: 1px solid ${color.ruleStrong};
  border-left: 4px solid ${color.on};
  background: ${color.sheet};
  box-shadow: 0 6px 20px rgb(0 0 0 / 18%);

  &[data-tone="trouble"] {
    border-left-color: ${color.trouble};
  }
`;

const Words = styled.p`
  flex: 1 1 auto;
`;

/** Beside the words where there is room, else below them. */
const Deeds = styled.div`
  display: flex;
  flex-wrap: wrap;
  margin-left: -6px;
`;

const Away = styled(QuietButton)`
  position: absolute;
  top: 6px;
  right: 4px;
`;

export function Messages({ messages, onDismiss }: MessagesProps): ReactElement {
  return (
    // Over dialogs too, which silence all that is not marked so.
    <Stack role="log" aria-label="Messages" aria-live="polite" data-react-aria-top-layer="true">
      {messages.map((message) => (
        <MessageNote key={message.id} message={message} onDismiss={onDismiss} />
      ))}
    </Stack>
  );
}

interface MessageNoteProps {
  readonly message: ShownMessage;
  onDismiss(id: number): void;
}

function MessageNote({ message, onDismiss }: MessageNoteProps): ReactElement {
  const { id, tone } = message;
  const shownMs = message.actions.length > 0 ? OFFER_MS : NEWS_MS;
  useEffect(() => {
    if (tone === "trouble") return;
    const timer = setTimeout(() => onDismiss(id), shownMs);
    return () => clearTimeout(timer);
  }, [id, tone, shownMs, onDismiss]);
  return (
    <Note data-tone={tone}>
      <Words>{message.text}</Words>
      <Deeds>
        {message.actions.map(({ label, run }) => (
          <QuietButton
            key={label}
            onPress={() => {
              run();
              onDismiss(id);
            }}
          >
            {label}
          </QuietButton>
        ))}
      </Deeds>
      <Away aria-label="Dismiss" onPress={() => onDismiss(id)}>
        <X size={14} aria-hidden="true" />
      </Away>
    </Note>
  );
}
