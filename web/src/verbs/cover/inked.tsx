import styled from "styled-components";

/** Hachures of a view. */
export const Strokes = styled.path`fill: none; stroke: var(--ink); stroke-width: 0.55; vector-effect: non-scaling-stroke;`;

/** The edge of what a view sees. */
export const Edge = styled.path`
  fill: none; stroke: var(--ink); stroke-width: 1.3; vector-effect: non-scaling-stroke; stroke-linejoin: round;
`;

/** The end of the line by which a view is aimed. */
export const AimEnd = styled.circle`
  fill: var(--sheet); stroke: var(--clay); stroke-width: 2; vector-effect: non-scaling-stroke; cursor: grab; pointer-events: all;
  outline: none; touch-action: none;
  &:focus-visible { fill: var(--clay); }
`;
