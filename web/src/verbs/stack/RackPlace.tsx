import type { Closet } from "../../api/client";
import { words } from "../../words";

const w = words.housing;
const OFF = 10;
const TICK = 14;
const STEP = 32;

/** What a rack is fixed to or stands on, behind it or under it from the side, and where its cables come in. */
export function RackPlace(props: { closet: Closet; left: number; right: number; high: number; px: number }) {
  const { closet, left, right, high, px } = props;
  const { fixing, entry } = closet;
  const isUnder = fixing === "floor" || fixing === "frame";
  const wall = right + OFF;
  const under = high + OFF;
  const at = entry === "top" ? 0 : high;
  const outwards = entry === "top" ? -1 : 1;
  return (
    <g className="place">
      {fixing && (
        <>
          <path
            d={isUnder ? `M${left - TICK} ${under}H${right + TICK}` : `M${wall} ${-TICK}V${high + TICK}`}
            strokeDasharray={fixing === "plasterboard" ? `${3 * px} ${3 * px}` : undefined}
          />
          <path
            d={
              isUnder
                ? ticks(left, right, (x) => `M${x + TICK} ${under}l${-TICK} ${TICK}`)
                : ticks(0, high, (y) => `M${wall} ${y + TICK}l${TICK} ${-TICK}`)
            }
          />
          {!isUnder && [0.12, 0.88].map((share) => <circle key={share} cx={right + OFF / 2} cy={share * high} r={5} />)}
          <text x={right + OFF} y={high + 13 * px} className="head end">
            {w.fixings[fixing]}
          </text>
        </>
      )}
      {entry && (
        <path
          d={[0, 1, 2]
            .map((n) => `M${right - 30 - 14 * n} ${at + outwards * 4 * TICK}V${at - outwards * TICK}`)
            .join("")}
        />
      )}
    </g>
  );
}

/** Strokes of a hatch along an edge. */
function ticks(from: number, to: number, stroke: (at: number) => string): string {
  const many = Math.floor((to - from) / STEP);
  return Array.from({ length: many }, (_, n) => stroke(from + (n + 0.5) * STEP)).join("");
}
