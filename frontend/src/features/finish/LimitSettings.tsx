/** How large the file may be, in bytes. */

import type { ReactElement } from "react";
import type { Finishing } from "@/features/finish/useFinishing";
import { Choice } from "@/ui/Choice";
import { Fields } from "@/ui/Fields";
import { NumberBox } from "@/ui/NumberBox";

const LIMITS = [
  { id: "none", label: "as large as it is" },
  { id: "500000", label: "500 kB" },
  { id: "1000000", label: "1 MB" },
  { id: "10000000", label: "10 MB" },
] as const;

const KB = 1000;
const MOST_KB = 10 ** 9;

export function LimitSettings({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { settings, change } = finishing;
  const { most_bytes } = settings;
  const value = most_bytes === null ? "none" : String(most_bytes);
  return (
    <Fields>
      <Choice<string>
        label="At most"
        value={value}
        choices={LIMITS}
        onChange={(id) => change({ most_bytes: id === "none" ? null : Number(id) })}
      />
      <NumberBox
        label="At most"
        value={Math.round((most_bytes ?? 1_000_000) / KB)}
        min={1}
        max={MOST_KB}
        step={1}
        unit="kB"
        isDisabled={most_bytes === null}
        onChange={(kilobytes) => change({ most_bytes: kilobytes * KB })}
      />
    </Fields>
  );
}
