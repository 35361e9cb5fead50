/** Whether what has the focus takes text: keys are its own then. */

/** Inputs that letters mean nothing to. */
const WITHOUT_TEXT: ReadonlySet<string> = new Set(["range", "checkbox", "radio", "button", "file"]);

export function isTyping(target: EventTarget | null): boolean {
  if (target instanceof HTMLTextAreaElement) return true;
  if (!(target instanceof HTMLElement)) return false;
  const takesText = target instanceof HTMLInputElement && !WITHOUT_TEXT.has(target.type);
  return takesText || target.isContentEditable;
}
