import { memo } from "react";
import styled from "styled-components";
import type { Layout, SignalPicture } from "../../api/client";
import { exact } from "../../kit/figures";
import { ringsPath } from "./hachures";

const LABEL_EVERY_PX = 260;
/** Strokes of a hatch by how little is heard: from this level down [px between two]. */
const HATCHES: readonly (readonly [from: number | null, gap: number])[] = [
  [null, 4],
  [-80, 7],
  [-70, 13],
];
const TURNS = [20, 65, 110, 155, 40, 85, 130, 175];

/** What a floor hears, as heights are drawn on a map: contour lines with their dBm, hatched where little is heard. */
export const SignalContours = memo(function SignalContours(props: {
  picture: SignalPicture;
  /** Outlines that it is drawn within. */
  within: readonly (readonly (readonly number[])[])[];
  px: number;
}) {
  const { picture, px } = props;
  const gapOf = (from: number | null) => HATCHES.find(([level]) => level === from)?.[1];
  return (
    <Drawn data-picture={picture.shown}>
      <clipPath id="signal-rooms">
        <path d={ringsPath(props.within)} />
      </clipPath>
      <g clipPath="url(#signal-rooms)">
        {picture.areas.map((area, place) => {
          const gap = area.drop_id != null ? 9 : picture.shown === "unheard" ? 6 : gapOf(area.from_dbm ?? null);
          if (!gap) return null;
          const turn = area.drop_id != null ? TURNS[place % TURNS.length] : area.from_dbm == null ? 0 : 45;
          const hatch = `signal-hatch-${place}`;
          return (
            <g key={`${area.drop_id} ${area.from_dbm}`}>
              <pattern
                id={hatch}
                width={gap * px}
                height={gap * px}
                patternUnits="userSpaceOnUse"
                patternTransform={`rotate(${turn})`}
              >
                <line x2={gap * px} stroke="var(--ink)" strokeWidth={0.7 * px} opacity={0.75} />
                {area.from_dbm == null && area.drop_id == null && (
                  <line y2={gap * px} stroke="var(--ink)" strokeWidth={0.7 * px} opacity={0.75} />
                )}
              </pattern>
              <path
                className="hatched"
                d={ringsPath(area.rings ?? [])}
                style={{ fill: `url(#${hatch})` }}
                fillRule="evenodd"
              />
              {area.drop_id != null && <path d={ringsPath(area.rings ?? [])} className="edge" />}
            </g>
          );
        })}
        {picture.contours.map((contour) => (
          <g key={contour.dbm} data-dbm={contour.dbm}>
            {contour.lines.map((line) => (
              <path key={line[0]?.join()} d={`M${line.map((spot) => spot.join(" ")).join("L")}`} />
            ))}
          </g>
        ))}
      </g>
      {figures(picture, px).map(({ dbm, x, y }) => (
        <text key={`${dbm} ${x} ${y}`} x={x} y={y + 4 * px} strokeWidth={4 * px}>
          {exact(dbm)}
        </text>
      ))}
    </Drawn>
  );
});

/** The figures of all lines, those left out that would stand on another. */
function figures(picture: SignalPicture, px: number): { dbm: number; x: number; y: number }[] {
  const kept: { dbm: number; x: number; y: number }[] = [];
  for (const { dbm, lines } of picture.contours)
    for (const [x, y] of lines.flatMap((line) => labelled(line, px)))
      if (!kept.some((one) => Math.abs(one.x - x) < 34 * px && Math.abs(one.y - y) < 15 * px)) kept.push({ dbm, x, y });
  return kept;
}

/** Where the figure of a line stands: about once in so many pixels, never on a line that is shorter than itself. */
function labelled(line: readonly (readonly number[])[], px: number): (readonly [number, number])[] {
  const found: (readonly [number, number])[] = [];
  let walked = 0;
  let next = (LABEL_EVERY_PX / 3) * px;
  for (let number = 1; number < line.length; number += 1) {
    const [[x0 = 0, y0 = 0] = [], [x1 = 0, y1 = 0] = []] = [line[number - 1], line[number]];
    walked += Math.hypot(x1 - x0, y1 - y0);
    if (walked >= next) {
      found.push([x1, y1]);
      next = walked + LABEL_EVERY_PX * px;
    }
  }
  return found;
}

/** An access point as a summit with the channel and width of the band beside it. */
export function Summits(props: {
  layout: Layout;
  floor: number;
  told: ReadonlyMap<number, string>;
  chosen: ReadonlySet<number>;
  px: number;
}) {
  const { px } = props;
  return (
    <Marks>
      {props.layout.drops
        .filter((drop) => drop.floor_id === props.floor && props.told.has(drop.id))
        .map((drop) => (
          <g
            key={drop.id}
            transform={`translate(${drop.x_m} ${drop.y_m}) scale(${px})`}
            data-chosen={props.chosen.has(drop.id) || undefined}
          >
            <path d="M0 -9L8 6L-8 6Z" />
            <text x={11} y={15} fontSize={12} strokeWidth={4}>
              {props.told.get(drop.id)}
            </text>
          </g>
        ))}
    </Marks>
  );
}

const Drawn = styled.g`
  pointer-events: none;
  path { fill: none; stroke: var(--ink); stroke-width: 1; vector-effect: non-scaling-stroke; stroke-linejoin: round; }
  .hatched { stroke: none; }
  .edge { stroke-width: 1.4; }
  [data-dbm="-60"] path { stroke-width: 0.8; }
  [data-dbm="-67"] path { stroke-width: 2.2; }
  [data-dbm="-70"] path { stroke-width: 1.3; stroke-dasharray: 7 3; }
  [data-dbm="-80"] path { stroke-width: 1.1; stroke-dasharray: 1.5 4; }
  text { fill: var(--ink); stroke: var(--sheet); paint-order: stroke; text-anchor: middle; font-weight: 600; font-stretch: 84%; }
`;
const Marks = styled.g`
  pointer-events: none;
  path { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.6; }
  [data-chosen] path { stroke: var(--clay); stroke-width: 2.4; }
  text { fill: var(--ink); stroke: var(--sheet); paint-order: stroke; font-stretch: 84%; }
`;
