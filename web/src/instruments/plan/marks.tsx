import { memo } from "react";
import styled from "styled-components";
import type { Drop } from "../../api/client";

const MARK_PX = 9;

/** The mark of a drop: a square on a wall, a ring under a ceiling, a slab on furniture; filled while in use. */
export const DropMark = memo(function DropMark(props: { drop: Drop; scale: number }) {
  const { drop } = props;
  const size = MARK_PX / props.scale;
  const half = size / 2;
  const ink = drop.poe_class != null ? "var(--clay)" : "var(--slate)";
  const look = {
    fill: drop.in_use ? ink : "var(--paper)",
    stroke: ink,
    strokeWidth: 1.6,
    vectorEffect: "non-scaling-stroke" as const,
  };
  const place = drop.place.toLowerCase();
  if (place.includes("ceiling")) {
    return (
      <>
        <circle r={half * 1.15} {...look} fill="var(--paper)" />
        {drop.in_use && <circle r={half * 0.45} fill={ink} />}
      </>
    );
  }
  if (/shelf|desk|bench/.test(place))
    return <rect x={-half * 1.4} y={-half * 0.6} width={size * 1.4} height={half * 1.2} {...look} />;
  return <rect x={-half} y={-half} width={size} height={size} {...look} />;
});

/** What all drawings share. */
export const Frame = styled.div`
  position: relative; overflow: hidden; background: var(--sheet); border: 1px solid var(--ink); touch-action: none; min-height: 0;
  svg { position: absolute; inset: 0; width: 100%; height: 100%; display: block; font-family: var(--data); user-select: none; }
  .room { fill: var(--paper); stroke: var(--ink); stroke-width: 1.6; vector-effect: non-scaling-stroke; }
  .room[data-outside] { fill: none; stroke-dasharray: 7 4; stroke: var(--faint); }
  .room[data-laid] { stroke: var(--faint); stroke-width: 1; }
  .room[data-chosen] { fill: var(--earth); }
  .wall { stroke: var(--ink); stroke-linecap: square; pointer-events: none; }
  .name { fill: var(--faint); paint-order: stroke; stroke: var(--sheet); stroke-linejoin: round; }
  .name:not([stroke-width]) { stroke: none; }
  text { pointer-events: none; }
  .code { fill: var(--ink); paint-order: stroke; stroke: var(--sheet); stroke-linejoin: round; }
  [data-drop] { cursor: grab; outline: none; }
  [data-drop] .hit { fill: transparent; }
  [data-drop] .halo { fill: none; stroke: var(--clay); stroke-width: 2; vector-effect: non-scaling-stroke; }
  [data-drop]:focus-visible .hit { stroke: var(--clay); stroke-width: 2; stroke-dasharray: 3 2; vector-effect: non-scaling-stroke; }
  .grid { stroke: var(--rule); stroke-width: 0.6; vector-effect: non-scaling-stroke; }
  .way { fill: none; stroke: var(--slate); stroke-width: 0.9; vector-effect: non-scaling-stroke; opacity: 0.45; }
  .way[data-chosen] { stroke: var(--clay); stroke-width: 2; opacity: 1; }
  .path { fill: none; stroke: var(--moss); stroke-width: 3; vector-effect: non-scaling-stroke; opacity: 0.75; cursor: pointer; }
  .path[data-chosen] { stroke: var(--clay); opacity: 1; }
  .closet { fill: var(--solid); }
  [data-point] { cursor: grab; }
  .handle { fill: var(--sheet); stroke: var(--clay); stroke-width: 2; vector-effect: non-scaling-stroke; cursor: nwse-resize; }
`;
