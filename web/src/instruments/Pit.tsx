import styled from "styled-components";
import type { Capacity } from "../api/client";

const WIDTH = 74;
const DEPTH = 58;
const RIM = 12;

/** Share of a capacity, never beyond what can be drawn. */
const share = (value: number, limit: number) =>
  limit > 0 ? Math.max(0, Math.min(1.15, value / limit)) : value > 0 ? 1.15 : 0;

/** A capacity as a pit: solid stands today, hatched comes by growth, open is left; too much breaks out above. */
export function Pit({ capacity }: { capacity: Capacity }) {
  const today = share(capacity.used, capacity.limit);
  const then = share(capacity.used + capacity.growth, capacity.limit);
  const solid = Math.min(1, today) * DEPTH;
  const grown = Math.min(1, then) * DEPTH - solid;
  const over = then > 1 + 1e-9;
  const floor = RIM + DEPTH;
  return (
    <Drawing width={WIDTH + 4} height={floor + 2} viewBox={`0 0 ${WIDTH + 4} ${floor + 2}`} aria-hidden="true">
      <rect className="open" x="2" y={RIM} width={WIDTH} height={DEPTH} />
      <rect className="solid" x="3.5" y={floor - solid} width={WIDTH - 3} height={solid} />
      {grown > 0.5 && <rect className="grown" x="3.5" y={floor - solid - grown} width={WIDTH - 3} height={grown} />}
      {over && (
        <polygon
          className="over"
          points={`2,${RIM} 10,${RIM - 5} 24,${RIM - 8} 38,${RIM - 5} 50,${RIM - 9} 64,${RIM - 6} ${WIDTH + 2},${RIM}`}
        />
      )}
      <path className="walls" d={`M2 ${RIM}V${floor}H${WIDTH + 2}V${RIM}`} />
    </Drawing>
  );
}

/** The pattern that all hatched growth on a page uses; drawn once. */
export function Hatching() {
  return (
    <svg width="0" height="0" style={{ position: "absolute" }} aria-hidden="true">
      <defs>
        <pattern id="hatching" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="5" fill="var(--sheet)" />
          <path d="M0 0V5" stroke="var(--ink)" strokeWidth="1.5" />
        </pattern>
        <pattern id="hatching-power" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="4" height="4" fill="var(--sheet)" />
          <path d="M0 0V4" stroke="var(--clay)" strokeWidth="1.6" />
        </pattern>
      </defs>
    </svg>
  );
}

const Drawing = styled.svg`
  display: block; overflow: visible;
  rect { transition: y 0.25s, height 0.25s; }
  .open { fill: var(--sheet); }
  .solid { fill: var(--solid); }
  .grown { fill: url(#hatching); }
  .over { fill: var(--clay); }
  .walls { fill: none; stroke: var(--ink); stroke-width: 1.5; }
`;
