import styled from "styled-components";
import { NARROW } from "../../kit/theme";

/** What a verb tells without a drawing, with the findings beside it. */
export const CoverPage = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 306px; gap: 24px; padding: 10px 16px 20px;
  > div > p { color: var(--faint); }
  > div { display: grid; gap: 16px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
`;

/** What stands, and the answers beside it. */
export const AnswerColumns = styled.div`
  display: grid; grid-template-columns: minmax(0, 200px); grid-auto-columns: minmax(0, 1fr); grid-auto-flow: column;
  border-top: 1px solid var(--ink);
  &[data-old] { opacity: 0.6; }
  article { padding: 8px 14px 4px; border-left: 1px solid var(--rule); display: grid; gap: 4px; align-content: start; }
  article:first-child { border-left: 0; padding-left: 0; }
  h3 { margin: 0; font: 600 17px var(--voice); }
  ol { display: grid; gap: 10px 20px; padding: 6px 0; grid-template-columns: repeat(auto-fill, minmax(250px, 1fr)); }
  li { display: grid; color: var(--faint); }
  li b { color: var(--ink); font-weight: 600; }
  li i { font-style: normal; color: var(--moss); }
  li em { font-style: normal; color: var(--slate); }
  article:first-child ol { gap: 2px; grid-template-columns: minmax(0, 1fr); }
  article:first-child li { color: var(--clay); }
  article:first-child li[data-met] { color: var(--moss); }
  ${NARROW} { grid-auto-flow: row; grid-template-columns: minmax(0, 1fr); article { border-left: 0; padding-left: 0; } }
`;

/** What one, two, three … come to. */
export const AtMostList = styled.ol`
  display: flex; gap: 4px 22px; flex-wrap: wrap; border-top: 1px solid var(--ink); padding-top: 5px;
  i { font-style: normal; color: var(--faint); }
`;

/** A caution beside the step where it counts. */
export const Caution = styled.p`font: 14px/1.35 var(--voice); padding: 8px 0 0; color: var(--ochre);`;
