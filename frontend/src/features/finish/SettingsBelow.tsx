/** What a live word of the sentence opens: its settings, with numbers. */

import type { ReactElement } from "react";
import { AboutSettings } from "@/features/finish/AboutSettings";
import { ColorSettings } from "@/features/finish/ColorSettings";
import type { Opened } from "@/features/finish/FileSentence";
import { GroundSettings } from "@/features/finish/GroundSettings";
import { LimitSettings } from "@/features/finish/LimitSettings";
import { PaperSettings } from "@/features/finish/PaperSettings";
import { PartSettings } from "@/features/finish/PartSettings";
import { QualitySettings } from "@/features/finish/QualitySettings";
import { SizeSettings } from "@/features/finish/SizeSettings";
import type { Finishing } from "@/features/finish/useFinishing";

const SETTINGS: Readonly<
  Record<Opened, (props: { readonly finishing: Finishing }) => ReactElement>
> = {
  quality: QualitySettings,
  size: SizeSettings,
  paper: PaperSettings,
  tiles: PaperSettings,
  color: ColorSettings,
  limit: LimitSettings,
  ground: GroundSettings,
  part: PartSettings,
  about: AboutSettings,
};

interface SettingsBelowProps {
  readonly finishing: Finishing;
  readonly opened: Opened | null;
}

export function SettingsBelow({ finishing, opened }: SettingsBelowProps): ReactElement | null {
  if (opened === null) return null;
  const Settings = SETTINGS[opened];
  return <Settings finishing={finishing} />;
}
