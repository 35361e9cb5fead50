/** The printer's colours: which profile, and how colours are brought into it. */

import { type ReactElement, useRef } from "react";
import { bringInProfile } from "@/api/calls";
import type { Finishing } from "@/features/finish/useFinishing";
import type { FileSettings } from "@/model/finishing";
import { useMessages } from "@/state/messages";
import { PlainButton } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Fields } from "@/ui/Fields";
import { Tick } from "@/ui/Tick";

const INTENTS = [
  { id: "relative", label: "as they are, the rest clipped" },
  { id: "perceptual", label: "all drawn together" },
  { id: "saturation", label: "kept strong" },
  { id: "absolute", label: "with the paper's tint" },
] as const;

const SHIPPED = "shipped";

type Intent = FileSettings["coloring"]["intent"];

export function ColorSettings({ finishing }: { readonly finishing: Finishing }): ReactElement {
  const { settings, change, profiles, refreshProfiles } = finishing;
  const { coloring } = settings;
  const chooser = useRef<HTMLInputElement>(null);
  const warn = useMessages((messages) => messages.warn);
  const bring = async (file: File) => {
    try {
      const { id } = await bringInProfile(file);
      await refreshProfiles();
      change({ coloring: { ...coloring, profile: id } });
    } catch (error) {
      warn((error as Error).message);
    }
  };
  return (
    <Fields>
      <Choice<string>
        label="Printer"
        value={coloring.profile ?? SHIPPED}
        choices={profiles.map(({ id, name }) => ({ id: id ?? SHIPPED, label: name }))}
        onChange={(id) =>
          change({ coloring: { ...coloring, profile: id === SHIPPED ? null : id } })
        }
      />
      <PlainButton onPress={() => chooser.current?.click()}>
        Bring in a printer's profile…
      </PlainButton>
      <input
        ref={chooser}
        type="file"
        accept=".icc,.icm"
        hidden
        onChange={(event) => {
          const [file] = event.currentTarget.files ?? [];
          event.currentTarget.value = "";
          if (file) void bring(file);
        }}
      />
      <Choice<Intent>
        label="Colours that ink cannot reach"
        value={coloring.intent}
        choices={INTENTS}
        onChange={(intent) => change({ coloring: { ...coloring, intent } })}
      />
      <Tick
        isSelected={coloring.black_point}
        onChange={(black_point) => change({ coloring: { ...coloring, black_point } })}
      >
        black becomes the darkest ink
      </Tick>
    </Fields>
  );
}
