import { type KeyboardEvent, memo, type PointerEvent, useEffect, useMemo, useState } from "react";
import styled from "styled-components";
import type { ViewLine } from "../../api/client";
import { exact } from "../../kit/figures";
import { words } from "../../words";
import { fanStrokes, ringsPath } from "./hachures";
import { AimEnd, Edge, Strokes } from "./inked";
import { useAimed } from "./useAimed";
import { keyOf, useSayOfView } from "./useCover";

const w = words.cover;
const NEAREST_M = 0.5;
const FURTHEST_M = 25;

interface Aim {
  bearing_deg: number;
  tilt_deg: number;
}

/** The views of a floor as fans of hachures; the chosen one has a line by whose end it is aimed. */
export function SightFans(props: {
  views: readonly ViewLine[];
  chosen: ReadonlySet<number>;
  only: boolean;
  px: number;
}) {
  const shown =
    props.only && props.chosen.size ? props.views.filter((view) => props.chosen.has(view.drop_id)) : props.views;
  const some = shown.some((view) => props.chosen.has(view.drop_id));
  return (
    <Fans>
      {shown.map((view) => (
        <Fan key={keyOf(view)} view={view} px={props.px} isChosen={props.chosen.has(view.drop_id)} isFaint={some} />
      ))}
    </Fans>
  );
}

function Fan({ view, px, isChosen, isFaint }: { view: ViewLine; px: number; isChosen: boolean; isFaint: boolean }) {
  const [aim, setAim] = useState<Aim | null>(null);
  const say = useSayOfView();
  // what was dragged stays where it was let go until the server has said what is seen from there
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new view ends the waiting
  useEffect(() => setAim(null), [view]);
  const settle = async (next: Aim) => {
    setAim(next);
    if (!(await say(view, { bearing_deg: next.bearing_deg, tilt_deg: next.tilt_deg }))) setAim(null);
  };
  const turned = (aim?.bearing_deg ?? view.bearing_deg) - view.bearing_deg;
  return (
    <g data-view={keyOf(view)} opacity={isChosen || !isFaint ? 1 : 0.3}>
      <g transform={turned ? `rotate(${turned} ${view.x_m} ${view.y_m})` : undefined}>
        <Drawn view={view} />
        {isChosen && view.light_m > 0 && <Light r={view.light_m} cx={view.x_m} cy={view.y_m} />}
      </g>
      {isChosen && <AimLine view={view} aim={aim ?? view} px={px} turn={setAim} settle={settle} />}
    </g>
  );
}

/** The hachures themselves, made once for a view however it is turned. */
const Drawn = memo(function Drawn({ view }: { view: ViewLine }) {
  const fan = useMemo(() => fanStrokes(view), [view]);
  const paths = useMemo(() => view.bands.map((band) => ringsPath(band.rings)), [view]);
  const about = `translate(${view.x_m} ${view.y_m}) rotate(${view.bearing_deg - 90})`;
  const id = `view-${view.drop_id}-${view.view_id ?? 0}`;
  return (
    <>
      {paths.map((path, band) => (
        <g key={view.bands[band]?.detail}>
          <clipPath id={`${id}-${band}`}>
            <path d={path} clipRule="evenodd" />
          </clipPath>
          <g clipPath={`url(#${id}-${band})`}>
            <Strokes d={fan[band]} transform={about} />
          </g>
        </g>
      ))}
      <Edge d={paths[0]} />
    </>
  );
});

/** From the lens to where its middle meets the ground: dragged, or turned and tilted by the arrow keys. */
function AimLine(props: {
  view: ViewLine;
  aim: Aim;
  px: number;
  turn: (aim: Aim) => void;
  settle: (aim: Aim) => void;
}) {
  const { view, aim, px } = props;
  const away = groundOf(view, aim.tilt_deg);
  const bearing = (aim.bearing_deg * Math.PI) / 180;
  const end = [view.x_m + Math.sin(bearing) * away, view.y_m - Math.cos(bearing) * away] as const;
  const aimAt = (event: PointerEvent<SVGElement>): Aim => {
    const matrix = event.currentTarget.ownerSVGElement?.getScreenCTM()?.inverse();
    const spot = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    const [dx, dy] = [spot.x - view.x_m, spot.y - view.y_m];
    const reach = Math.max(Math.hypot(dx, dy), 0.05);
    return {
      bearing_deg: whole((Math.atan2(dx, -dy) * 180) / Math.PI),
      tilt_deg: Math.round(Math.min(90, (Math.atan2(view.height_m, reach) * 180) / Math.PI)),
    };
  };
  const aimed = useAimed(aimAt, props.turn, props.settle);
  const keys = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 10 : 1;
    const turns: Record<string, readonly [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const by = turns[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    props.settle({
      bearing_deg: whole(aim.bearing_deg + by[0]),
      tilt_deg: Math.max(-90, Math.min(90, Math.round(aim.tilt_deg + by[1]))),
    });
  };
  return (
    <>
      <AimStroke x1={view.x_m} y1={view.y_m} x2={end[0]} y2={end[1]} />
      <AimEnd
        role="slider"
        tabIndex={0}
        aria-label={w.aimOf(view.name)}
        aria-valuenow={Math.round(aim.bearing_deg)}
        aria-valuemin={0}
        aria-valuemax={359}
        aria-valuetext={w.aimIs(exact(aim.bearing_deg), exact(aim.tilt_deg))}
        cx={end[0]}
        cy={end[1]}
        r={7 * px}
        onKeyDown={keys}
        {...aimed}
      />
    </>
  );
}

/** Where the middle of a view meets the ground, as far as it can be drawn [m]. */
function groundOf(view: ViewLine, tilt: number): number {
  const away = tilt > 0 ? view.height_m / Math.tan((Math.min(tilt, 89.9) * Math.PI) / 180) : FURTHEST_M;
  return Math.max(NEAREST_M, Math.min(FURTHEST_M, away));
}

const whole = (bearing: number) => ((Math.round(bearing) % 360) + 360) % 360;

const Fans = styled.g`pointer-events: none;`;
const Light = styled.circle`
  fill: none; stroke: var(--ochre); stroke-width: 1; stroke-dasharray: 2 5; vector-effect: non-scaling-stroke;
`;
const AimStroke = styled.line`stroke: var(--clay); stroke-width: 1.6; vector-effect: non-scaling-stroke;`;
