/** The head of a place: where it leads back to, and what it is about. */

import styled from "styled-components";
import { color, font } from "@/theme/tokens";

export const PageHead = styled.header`
  display: flex;
  gap: 14px;
  align-items: center;
  height: 54px;
  padding: 0 16px 0 10px;
  border-bottom: 1px solid ${color.rule};
`;

export const PageTitle = styled.h1`
  overflow: hidden;
  max-width: 300px;
  font-family: ${font.name};
  font-size: 17px;
  font-weight: 700;
  text-overflow: ellipsis;
  white-space: nowrap;
`;

/** What is said beside the title, as the beginning of a sentence. */
export const PageSentence = styled.p`
  flex: 1;
  font-family: ${font.reading};
  font-size: 16px;
`;

/** What stands there instead of a place: it is fetched, or cannot be. */
export const PageSays = styled.div`
  display: grid;
  justify-items: start;
  gap: 12px;
  padding: 40px 32px;
  font-family: ${font.reading};
  font-size: 17px;
`;
