/** Finds the backdrops of many photos, one after the other; it can be stopped. */

import { BY_ITSELF, type FoundMatte, type Haste } from "@/model/mattes";
import { sayCount } from "@/model/wording";
import { useManyCuts } from "@/state/manyCuts";
import { useMessages } from "@/state/messages";
import { findMatte } from "@/work/cutting/findMatte";

interface Wanted {
  readonly picture: string;
}

/** Whose they are, and whether somebody waits for them. */
interface Purpose {
  readonly whose: string;
  readonly haste: Haste;
}

/** Find them all, and tell how it went; what was found before comes at once. */
export async function findMany<T extends Wanted>(
  { whose, haste }: Purpose,
  wanted: readonly T[],
  onFound: (wanted: T, found: FoundMatte) => void,
): Promise<void> {
  const { setRunning, running } = useManyCuts.getState();
  running[whose]?.stop();
  const stopping = new AbortController();
  const stop = () => {
    stopping.abort();
    setRunning(whose, null);
  };
  const reasons: string[] = [];
  for (const [done, one] of wanted.entries()) {
    setRunning(whose, { done, total: wanted.length, stop });
    const asked = { picture: one.picture, request: BY_ITSELF, haste };
    const found = await findMatte(asked, stopping.signal).catch((error: Error) => {
      reasons.push(error.message);
      return null;
    });
    if (stopping.signal.aborted) return;
    if (found) onFound(one, found);
  }
  setRunning(whose, null);
  tell(wanted.length, reasons);
}

function tell(total: number, reasons: readonly string[]): void {
  const found = `${sayCount(total - reasons.length, "background")} found`;
  const [first] = reasons;
  const rest = first ? `, ${reasons.length} not. ${first}` : ".";
  useMessages.getState().say(found + rest);
}
