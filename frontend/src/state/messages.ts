/** Short messages at the foot of the page. */

import { create } from "zustand";

export interface Message {
  readonly id: number;
  readonly tone: "news" | "trouble";
  readonly text: string;
  readonly action?: { readonly label: string; run(): void };
}

interface MessageStore {
  readonly messages: readonly Message[];
  say(text: string, action?: Message["action"]): void;
  warn(text: string): void;
  dismiss(id: number): void;
}

let lastId = 0;

export const useMessages = create<MessageStore>((set) => {
  const add = (message: Omit<Message, "id">) => {
    lastId += 1;
    const added = { ...message, id: lastId };
    set(({ messages }) => ({ messages: [...messages.slice(-3), added] }));
  };
  return {
    messages: [],
    say: (text, action) => add({ tone: "news", text, ...(action ? { action } : {}) }),
    warn: (text) => add({ tone: "trouble", text }),
    dismiss: (id) =>
      set(({ messages }) => ({ messages: messages.filter((message) => message.id !== id) })),
  };
});
