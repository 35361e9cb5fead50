/** Bringing in fonts of one's own. */

import { bringInFont } from "@/api/uploads";
import { useMessages } from "@/state/messages";

/** Bring fonts in, one after the other, and say what came of each. */
export async function bringInFonts(files: readonly File[]): Promise<void> {
  const { say, warn } = useMessages.getState();
  for (const file of files) {
    try {
      const { fonts } = await bringInFont(file, () => {}, new AbortController().signal);
      say(`${fonts.map(({ name }) => name).join(", ")} can be used now.`);
    } catch (reason) {
      warn(reason instanceof Error ? reason.message : "The font could not be brought in.");
    }
  }
}
