import styled from "styled-components";

/** A drawing with its figures in a table below. */
export const Figure = styled.figure`
  margin: 0; display: grid; gap: 4px;
`;

/** Dots and rings over axes, the pass level as dashes. */
export const Dots = styled.svg`
  width: 100%; height: auto;
  text { font: 11.5px var(--data); fill: var(--faint); }
  line { stroke: var(--rule); } .same { stroke: var(--faint); stroke-width: 0.8; } .wanted { stroke: var(--clay); stroke-dasharray: 5 3; }
  circle { fill: var(--ink); } circle[data-ring] { fill: none; stroke: var(--slate); stroke-width: 1.2; }
`;

/** Figures in small type; a bar may stand in a row. */
export const Small = styled.table`
  width: 100%; font-size: 12.5px;
  th { text-align: left; font-weight: 450; padding: 3px 8px 3px 0; } thead th { color: var(--faint); white-space: nowrap; }
  td { padding: 3px 8px 3px 0; } .r { text-align: right; white-space: nowrap; padding-right: 0; padding-left: 8px; }
  tbody tr { border-top: 1px solid var(--rule); }
  .r + :not(.r) { padding-left: 16px; } svg { display: block; }
  .planned { fill: var(--earth); stroke: var(--faint); stroke-width: 0.6; } .worked, .after { fill: var(--solid); } .over { fill: var(--clay); }
  .before { fill: none; stroke: var(--slate); } .wanted { stroke: var(--clay); stroke-dasharray: 3 2; }
`;
