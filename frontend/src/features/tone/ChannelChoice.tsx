/** For all channels together, or for one of them. */

import type { ReactElement } from "react";
import { type Channel, useToning } from "@/state/toning";
import { Choice } from "@/ui/Choice";

const CHOICES: readonly { readonly id: Channel; readonly label: string }[] = [
  { id: "all", label: "All" },
  { id: "red", label: "Red" },
  { id: "green", label: "Green" },
  { id: "blue", label: "Blue" },
];

export function ChannelChoice(): ReactElement {
  const channel = useToning((toning) => toning.channel);
  const setChannel = useToning((toning) => toning.setChannel);
  return <Choice label="Which channel" value={channel} choices={CHOICES} onChange={setChannel} />;
}
