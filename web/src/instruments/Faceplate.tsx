import styled from "styled-components";
import type { BoxFill } from "../api/client";
import { speed } from "../kit/figures";

const CELL = 8;
const STEP = 9.6;
const ROW_MOST = 24;
const PER_BANK = 12;

type Taken = "link" | "live" | "live-power" | "reserve" | "reserve-power" | "free" | "free-power";

/** What sits on each port of a box, group by group. */
function cells(box: BoxFill): Taken[][] {
  return box.groups.map((group) => {
    const powered = group.poe_rank > 0;
    const row: Taken[] = [
      ...Array<Taken>(group.links).fill("link"),
      ...Array<Taken>(group.live - group.live_powered).fill("live"),
      ...Array<Taken>(group.live_powered).fill("live-power"),
      ...Array<Taken>(group.reserve_powered).fill("reserve-power"),
      ...Array<Taken>(group.reserve - group.reserve_powered).fill("reserve"),
    ];
    const free = Math.max(0, group.count - row.length);
    return [...row, ...Array<Taken>(free).fill(powered ? "free-power" : "free")];
  });
}

/** The front of a box: solid stands today, hatched is kept for growth, open is free; clay gives power, slate links. */
export function Faceplate({ box }: { box: BoxFill }) {
  const banks = cells(box).flatMap((group) => {
    const rows: Taken[][] = [];
    for (let at = 0; at < group.length; at += PER_BANK) rows.push(group.slice(at, at + PER_BANK));
    return rows;
  });
  const perRow = ROW_MOST / PER_BANK;
  const rows: Taken[][][] = [];
  let line: Taken[][] = [];
  for (const bank of banks) {
    const width = line.reduce((sum, other) => sum + other.length, 0) + bank.length;
    if (line.length && (line.length >= perRow + 1 || width > ROW_MOST)) {
      rows.push(line);
      line = [];
    }
    line.push(bank);
  }
  if (line.length) rows.push(line);
  const height = rows.length * STEP + 11;
  const fills = box.groups.map((g) => `${g.live + g.reserve + g.links} of ${g.count} at ${speed(g.speed_mbit)}`);
  return (
    <Front viewBox={`0 0 250 ${height}`} height={height} role="img" aria-label={`${box.name}: ${fills.join(", ")}`}>
      <rect className="case" x="0.7" y="0.7" width="248.6" height={height - 1.4} />
      {rows.map((banksOfRow, row) => {
        let x = 7;
        return banksOfRow.map((bank, place) => {
          const start = x;
          x += bank.length * STEP + 5;
          return bank.map((taken, port) => (
            <rect
              // biome-ignore lint/suspicious/noArrayIndexKey: ports are told apart by where they are
              key={`${row}-${place}-${port}`}
              className={taken}
              x={start + port * STEP}
              y={6 + row * STEP}
              width={CELL - 0.6}
              height={CELL - 0.6}
            />
          ));
        });
      })}
    </Front>
  );
}

const Front = styled.svg`
  display: block; width: 100%; max-width: 250px;
  .case { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.4; }
  .link { fill: var(--slate); }
  .live { fill: var(--ink); }
  .live-power { fill: var(--clay); }
  .reserve { fill: url(#hatching); stroke: var(--ink); stroke-width: 0.8; }
  .reserve-power { fill: url(#hatching-power); stroke: var(--clay); stroke-width: 0.8; }
  .free { fill: none; stroke: var(--faint); stroke-width: 0.8; }
  .free-power { fill: none; stroke: var(--clay); stroke-width: 0.8; }
`;
