/** The way back to the wall, at the head of every other place. */

import { ChevronLeft } from "lucide-react";
import type { ReactElement } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { color } from "@/theme/tokens";

const Home = styled(Link)`
  display: flex;
  align-items: center;
  color: ${color.softInk};
  text-decoration: none;

  &:hover {
    color: ${color.ink};
  }
`;

export function ToWall(): ReactElement {
  return (
    <Home to="/">
      <ChevronLeft size={18} aria-hidden="true" />
      Wall
    </Home>
  );
}
