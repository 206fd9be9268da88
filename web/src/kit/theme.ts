import { createGlobalStyle } from "styled-components";

/** The one palette and type of the product; chalk paper and ink on a strip of earth. */
export const Theme = createGlobalStyle`
  :root {
    --paper: #f5f1e6; --sheet: #fbf9f2; --earth: #e7dfcb; --rule: #d8d0bd; --ink: #23282c; --faint: #676256;
    --clay: #97451f; --ochre: #7d5a12; --moss: #4d5a2e; --slate: #3f5b6b; --solid: #4a4e50;
    --data: "Archivo Variable", sans-serif; --voice: "Source Serif 4 Variable", serif;
  }
  @media (prefers-color-scheme: dark) {
    :root {
      --paper: #1b1f22; --sheet: #22272b; --earth: #2c2a24; --rule: #3d4145; --ink: #ece6d8; --faint: #a39d8f;
      --clay: #e08a5e; --ochre: #dcb35c; --moss: #aebd85; --slate: #9fbccb; --solid: #8d9296;
    }
  }
  * { box-sizing: border-box; }
  html, body, #root { height: 100%; margin: 0; }
  body {
    background: var(--paper); color: var(--ink); font: 13.5px/1.35 var(--data); font-stretch: 92%;
    font-variant-numeric: tabular-nums; -webkit-font-smoothing: antialiased;
  }
  h1, h2, h3, p, ol, ul, dl, dd { margin: 0; padding: 0; }
  ol, ul { list-style: none; }
  h2 { font-size: 13.5px; font-weight: 650; }
  button, input { font: inherit; color: inherit; letter-spacing: inherit; }
  a { color: var(--slate); text-underline-offset: 2px; }
  :focus-visible { outline: 2px solid var(--clay); outline-offset: 1px; }
  ::selection { background: var(--earth); }
  table { border-collapse: collapse; }
  @media (prefers-reduced-motion: reduce) { * { transition: none !important; animation: none !important; } }
  @media print {
    body { background: #fff; }
    nav, [data-screen-only] { display: none !important; }
  }
`;

/** Below this width the frame stacks: order of work on top, one surface at a time. */
export const NARROW = "@media (max-width: 860px)";
