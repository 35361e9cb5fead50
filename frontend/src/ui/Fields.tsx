/** Controls below one another that belong to the line above them. */

import styled from "styled-components";

export const Fields = styled.div`
  display: grid;
  gap: 8px;
  padding-left: 13px;
`;

export const FieldRow = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
`;
