/** A sentence among the settings of a layer or of the sheet. */

import styled from "styled-components";
import { font } from "@/theme/tokens";

export const Words = styled.p`
  font-family: ${font.reading};
  font-size: 14.5px;
  line-height: 1.4;
`;

/** Words of a facet that are settings themselves. */
export const FacetWords = styled(Words)`
  font-size: 15px;
`;
