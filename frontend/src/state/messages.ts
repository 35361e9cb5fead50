/** Short messages at the foot of the page. */

import { create } from "zustand";

export interface Message {
  readonly id: number;
  readonly tone: "news" | "trouble";
  readonly text: string;
  /** What can be done about it, in this order. */
  readonly actions: readonly MessageAction[];
}

interface MessageAction {
  readonly label: string;
  run(): void;
}

interface MessageStore {
  readonly messages: readonly Message[];
  say(text: string, ...actions: readonly MessageAction[]): void;
  warn(text: string): void;
  dismiss(id: number): void;
}

let lastId = 0;
/** News are read once; trouble stays until it is dismissed, up to so many. */
const MOST_NEWS = 3;
const MOST_TROUBLE = 6;

/** Return messages with one more: what is told again takes the place of what was told. */
function withMessage(messages: readonly Message[], added: Message): readonly Message[] {
  const others = messages.filter(({ text }) => text !== added.text);
  const of = (tone: Message["tone"]) => [...others, added].filter((one) => one.tone === tone);
  const kept = new Set([...of("news").slice(-MOST_NEWS), ...of("trouble").slice(-MOST_TROUBLE)]);
  return [...others, added].filter((one) => kept.has(one));
}

export const useMessages = create<MessageStore>((set) => {
  const add = (message: Omit<Message, "id">) => {
    lastId += 1;
    const added = { ...message, id: lastId };
    set(({ messages }) => ({ messages: withMessage(messages, added) }));
  };
  return {
    messages: [],
    say: (text, ...actions) => add({ tone: "news", text, actions }),
    warn: (text) => add({ tone: "trouble", text, actions: [] }),
    dismiss: (id) =>
      set(({ messages }) => ({ messages: messages.filter((message) => message.id !== id) })),
  };
});
