/** What else can be done with a print: loaded after the wall has shown. */

import type { ReactElement } from "react";
import { ActionMenu, type Deed } from "@/ui/ActionMenu";

interface PrintMenuProps {
  readonly name: string;
  /** What else can be done with it, in the order of the menu. */
  readonly deeds: readonly Deed[];
}

export function PrintMenu({ name, deeds }: PrintMenuProps): ReactElement {
  return <ActionMenu word="More" label={`More for ${name}`} deeds={deeds} />;
}
