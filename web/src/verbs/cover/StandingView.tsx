import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import { data, http, type ViewLine, type ViewSection } from "../../api/client";
import { useChosen, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { DrawingSurface } from "../../instruments/plan/DrawingSurface";
import { ScaleBar } from "../../instruments/plan/floorParts";
import { Frame } from "../../instruments/plan/marks";
import { useView } from "../../instruments/plan/useView";
import { Chooser } from "../../kit/Choice";
import { exact, length, lengthUnit } from "../../kit/figures";
import { words } from "../../words";
import { ringsPath, strokes } from "./hachures";
import { AimEnd, Edge, Strokes } from "./inked";
import { useAimed } from "./useAimed";
import { DETAILS, keyOf, useCover, useSayOfView } from "./useCover";
import { ViewSheet } from "./ViewSheet";

const w = words.standing;
const MARGIN_M = 0.8;
const SHOWN_M = 14;
const FURTHEST_M = 12;
/** Width over height of the drawing, and the share of it that is over the ground. */
const ASPECT = 1.6;
const OVER_GROUND = 0.82;

/** One view cut open along its bearing: its edges, the ground that stays blind, and what hides the rest. */
export function StandingView() {
  const { outcome, choose } = useWork();
  const chosen = useChosen();
  const cover = useCover();
  const placed = cover?.views.filter((view) => view.placed) ?? [];
  const [asked, setAsked] = useState<string | null>(null);
  const view =
    placed.find((one) => keyOf(one) === asked && (!chosen.drops.size || chosen.drops.has(one.drop_id))) ??
    placed.find((one) => chosen.drops.has(one.drop_id)) ??
    placed[0];
  if (!cover) return null;
  return (
    <DrawingSurface>
      <div className="drawing">
        <div className="tools">
          {view && (
            <Chooser
              label={w.camera}
              value={keyOf(view)}
              options={placed.map((one) => [keyOf(one), one.name])}
              set={(key) => {
                const next = placed.find((one) => keyOf(one) === key);
                setAsked(key);
                const room = outcome.project.drops.find((drop) => drop.id === next?.drop_id)?.room_id ?? null;
                if (next) choose({ drops: new Set([next.drop_id]), roomId: room });
              }}
            />
          )}
          <span>{view ? w.hint : w.none}</span>
        </div>
        {view && <Standing key={keyOf(view)} view={view} />}
      </div>
      <div className="beside">
        {view && (
          <ViewSheet drop={view.drop_id} views={cover.views.filter((one) => one.drop_id === view.drop_id)} isStanding />
        )}
        <Findings verb="cover" />
      </div>
    </DrawingSurface>
  );
}

function Standing({ view }: { view: ViewLine }) {
  const { id, outcome } = useWork();
  const section = useQuery({
    queryKey: ["cover-section", id, outcome.revision, keyOf(view)],
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      data(
        http.GET("/api/projects/{project_id}/cover/section", {
          params: { path: { project_id: id }, query: { drop_id: view.drop_id, view_id: view.view_id, most_m: 30 } },
          signal,
        }),
      ),
  }).data;
  return section ? <Drawn view={view} section={section} /> : null;
}

const radians = (degrees: number) => (degrees * Math.PI) / 180;

function Drawn({ view, section }: { view: ViewLine; section: ViewSection }) {
  const frame = useRef<HTMLDivElement>(null);
  const say = useSayOfView();
  const [tilt, setTilt] = useState<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new section ends the waiting
  useEffect(() => setTilt(null), [section]);
  const whole = useMemo(() => {
    const width = Math.min(section.reach_m, SHOWN_M) + 2 * MARGIN_M;
    const height = Math.max(width / ASPECT, (section.z_m - section.floor_m + MARGIN_M) / OVER_GROUND);
    return { x: -MARGIN_M, y: -section.floor_m - height * OVER_GROUND, width, height };
  }, [section.z_m, section.floor_m, section.reach_m]);
  const { view: sight, zoom, pan } = useView(frame, whole);
  const px = 1 / sight.scale;
  const grabbed = useRef<readonly [number, number] | null>(null);
  const now = tilt ?? view.tilt_deg;
  const settle = async (next: number) => {
    setTilt(next);
    if (!(await say(view, { tilt_deg: next }))) setTilt(null);
  };
  const fan = useMemo(
    () =>
      DETAILS.map((_, band) =>
        strokes(band, radians(section.upper_deg), radians(section.lower_deg), view.bands[band]?.reach_m ?? 0),
      ),
    [section, view],
  );
  const height = section.z_m - section.floor_m;
  const away = now > 0 ? Math.min(height / Math.tan(radians(Math.min(now, 89.9))), FURTHEST_M) : FURTHEST_M;
  const end = [away, -section.z_m + away * Math.tan(radians(Math.min(now, 89.9)))] as const;
  const tiltAt = (event: PointerEvent<SVGElement>) => {
    const matrix = event.currentTarget.ownerSVGElement?.getScreenCTM()?.inverse();
    const spot = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return Math.round((Math.atan2(spot.y + section.z_m, Math.max(spot.x, 0.01)) * 180) / Math.PI);
  };
  const aimed = useAimed(tiltAt, setTilt, settle);
  const keys = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 10 : 1;
    const by = { ArrowUp: -step, ArrowDown: step }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    settle(Math.max(-90, Math.min(90, Math.round(now + by))));
  };
  const name = `standing-${view.drop_id}-${view.view_id ?? 0}`;
  return (
    <Frame
      ref={frame}
      role="group"
      aria-label={view.name}
      onPointerDown={(event) => {
        grabbed.current = [event.clientX, event.clientY];
      }}
      onPointerMove={(event) => {
        if (!grabbed.current) return;
        pan(event.clientX - grabbed.current[0], event.clientY - grabbed.current[1]);
        grabbed.current = [event.clientX, event.clientY];
      }}
      onPointerUp={() => {
        grabbed.current = null;
      }}
      onDoubleClick={() => zoom(1.5)}
    >
      {/* biome-ignore lint/a11y/noSvgWithoutTitle: the group around it is labelled */}
      <svg viewBox={`${sight.x} ${sight.y} ${sight.width} ${sight.height}`} fontSize={12 * px}>
        <rect
          x={sight.x}
          y={-section.floor_m}
          width={sight.width}
          height={Math.max(0, sight.y + sight.height + section.floor_m)}
          fill="var(--earth)"
        />
        <line
          x1={sight.x}
          x2={sight.x + sight.width}
          y1={-section.floor_m}
          y2={-section.floor_m}
          stroke="var(--ink)"
          strokeWidth={2 * px}
        />
        <g transform={tilt === null ? undefined : `rotate(${tilt - view.tilt_deg} 0 ${-section.z_m})`}>
          {section.bands.map((band, place) => (
            <g key={band.detail}>
              <clipPath id={`${name}-${place}`}>
                <path
                  d={ringsPath(band.rings.map((ring) => ring.map(([x = 0, z = 0]) => [x, -z])))}
                  clipRule="evenodd"
                />
              </clipPath>
              <g clipPath={`url(#${name}-${place})`}>
                <Strokes d={fan[place]} transform={`translate(0 ${-section.z_m})`} />
              </g>
            </g>
          ))}
          <Edge d={ringsPath((section.bands[0]?.rings ?? []).map((ring) => ring.map(([x = 0, z = 0]) => [x, -z])))} />
        </g>
        {section.slabs.map((slab) => (
          <line
            key={`${slab.from_m} ${slab.z_m}`}
            x1={slab.from_m}
            x2={slab.to_m}
            y1={-slab.z_m}
            y2={-slab.z_m}
            stroke="var(--solid)"
            strokeWidth={4 * px}
          />
        ))}
        {section.walls.map((wall) => (
          <line
            key={`${wall.along_m} ${wall.low_m}`}
            x1={wall.along_m}
            x2={wall.along_m}
            y1={-wall.low_m}
            y2={-wall.high_m}
            stroke="var(--solid)"
            strokeWidth={5 * px}
          />
        ))}
        {view.blind_m != null && view.blind_m > 0 && tilt === null && (
          <g>
            <path
              d={`M0 ${-section.floor_m + 14 * px}v${-6 * px}M0 ${-section.floor_m + 11 * px}H${view.blind_m}m0 ${-3 * px}v${6 * px}`}
              fill="none"
              stroke="var(--clay)"
              strokeWidth={1.6 * px}
            />
            <text x={0} y={-section.floor_m + 30 * px} fill="var(--clay)">
              {w.blind(`${length(view.blind_m, 2)} ${lengthUnit()}`)}
            </text>
          </g>
        )}
        <line x1={0} y1={-section.z_m} x2={end[0]} y2={end[1]} stroke="var(--clay)" strokeWidth={1.6 * px} />
        <rect x={-6 * px} y={-section.z_m - 4 * px} width={12 * px} height={8 * px} fill="var(--clay)" />
        <text x={-4 * px} y={-section.z_m - 10 * px} fill="var(--ink)" textAnchor="end">
          {`${length(height, 2)} ${lengthUnit()}`}
        </text>
        <AimEnd
          role="slider"
          tabIndex={0}
          aria-label={words.cover.aimOf(view.name)}
          aria-valuenow={Math.round(now)}
          aria-valuemin={-90}
          aria-valuemax={90}
          aria-valuetext={`${exact(now)}${words.targets.steep}`}
          cx={end[0]}
          cy={end[1]}
          r={7 * px}
          onKeyDown={keys}
          {...aimed}
        />
        <ScaleBar view={sight} />
      </svg>
    </Frame>
  );
}
