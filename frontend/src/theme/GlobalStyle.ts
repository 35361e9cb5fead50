/** Fonts, colours and the few rules that hold everywhere. */

import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/literata";
import { createGlobalStyle } from "styled-components";
import { color, DAY, font, NIGHT } from "@/theme/tokens";

export const GlobalStyle = createGlobalStyle`
  :root { ${DAY} }
  :root[data-theme="night"] { ${NIGHT} }

  *, *::before, *::after { box-sizing: border-box; }

  html, body, #root { height: 100%; margin: 0; }

  body {
    background: ${color.paper};
    color: ${color.ink};
    font-family: ${font.control};
    font-size: 14px;
    line-height: 1.4;
    -webkit-font-smoothing: antialiased;
  }

  h1, h2, h3, p, ul, ol, dl, dd, figure { margin: 0; padding: 0; }
  ul, ol { list-style: none; }
  button, input { font: inherit; color: inherit; }

  a {
    color: ${color.live};
    text-decoration-color: ${color.liveRule};
    text-underline-offset: 3px;
  }

  :focus-visible, [data-focus-visible] {
    outline: 2px solid ${color.on};
    outline-offset: 2px;
  }

  @media (prefers-reduced-motion: reduce) {
    *, *::before, *::after { transition: none !important; animation: none !important; }
  }
`;
