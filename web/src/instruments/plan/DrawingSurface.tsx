import styled from "styled-components";
import { ChoiceButton } from "../../kit/Choice";
import { NARROW } from "../../kit/theme";

/** A drawing that fills the height, and what stands beside it. */
export const DrawingSurface = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 306px; min-height: 0; height: 100%;
  .drawing { display: grid; grid-template-rows: auto minmax(0, 1fr); gap: 6px; padding: 6px 14px 12px 16px; min-height: 0; }
  .tools { display: flex; gap: 4px 16px; align-items: baseline; flex-wrap: wrap; min-height: 24px; }
  .tools > span { color: var(--faint); flex-basis: 100%; order: 1; }
  .tools ${ChoiceButton} { border-bottom-color: var(--ink); }
  .tools .on { font-weight: 650; color: var(--clay); }
  .beside { border-left: 1px solid var(--rule); padding: 10px 16px 20px; overflow: auto; display: grid; gap: 14px; align-content: start; margin-top: -28px; grid-template-columns: minmax(0, 1fr); }
  &.with-table .drawing { grid-template-rows: auto minmax(0, 1.5fr) minmax(120px, 1fr); }
  .caution { font: 14px/1.35 var(--voice); padding: 6px 0; }
  .faint { color: var(--faint); padding-bottom: 4px; }
  .line.piece { grid-template-columns: minmax(0, 1fr) 74px; }
  .line.piece > span:first-child { color: var(--ink); }
  .line.piece > span:last-child { justify-content: flex-end; }
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr); height: auto;
    .drawing { grid-template-rows: auto 58vh; }
    &.with-table .drawing { grid-template-rows: auto 58vh auto; }
    .beside { border-left: 0; border-top: 1px solid var(--rule); margin-top: 0; }
  }
`;
