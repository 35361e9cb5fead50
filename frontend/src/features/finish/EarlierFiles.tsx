/** Files of this picture that were made before, and can still be fetched. */

import { useQuery } from "@tanstack/react-query";
import type { ReactElement } from "react";
import styled from "styled-components";
import { exportUrl, fetchEarlierFiles } from "@/api/calls";
import { sayBytes } from "@/model/finishing";
import { sayWhen } from "@/model/wording";
import { color } from "@/theme/tokens";

const List = styled.ul`
  padding: 0;
  color: ${color.softInk};
  font-size: 13.5px;
  list-style: none;

  a {
    color: ${color.live};
  }
`;

const MOST = 4;

interface EarlierFilesProps {
  readonly projectId: string;
  /** Those that are told of elsewhere. */
  readonly but: readonly string[];
}

export function EarlierFiles({ projectId, but }: EarlierFilesProps): ReactElement | null {
  const files = useQuery({
    queryKey: ["earlier-files", projectId],
    queryFn: () => fetchEarlierFiles(projectId),
    gcTime: 0,
  });
  const shown = (files.data ?? []).filter(({ id }) => !but.includes(id)).slice(0, MOST);
  if (shown.length === 0) return null;
  return (
    <List aria-label="Made earlier">
      {shown.map(({ id, name, size, made_at }) => (
        <li key={id}>
          <a href={exportUrl(id)} download>
            {name}
          </a>
          , {sayBytes(size)}, made {sayWhen(made_at)}
        </li>
      ))}
    </List>
  );
}
