import { type ReactNode, useMemo, useRef } from "react";
import type { Floor, Layout } from "../../api/client";
import { useWork } from "../../api/work";
import { words } from "../../words";
import { area, corner, Grid, Handles, OneDrop, ScaleBar } from "./floorParts";
import { around, onFloor, type Spot, spots } from "./geometry";
import { Frame } from "./marks";
import { usePlanActs } from "./usePlanActs";
import { useView } from "./useView";

const w = words.plan;
const CODE_FROM_PX = 22;
const CODE_PX = 54;
const MARGIN_M = 0.8;

export interface PlanProps {
  floor: Floor;
  layout: Layout;
  ways: readonly { drop_id: number; corners: readonly (readonly number[])[]; floor_ids: readonly number[] }[];
  /** Rooms are moved and sized, drops rest. */
  drawing?: boolean;
  /** A kind of drop that a press puts down. */
  putting?: { kind: string; ownKind: number | null } | null;
  /** Two points are asked for, to scale the picture under the plan. */
  measuring?: readonly Spot[] | null;
  onMeasured?: (spot: Spot) => void;
  /** Corners outside the rooms that must be in sight too. */
  beyond?: readonly Spot[];
  /** What else is drawn over the rooms, given the metres of a pixel. */
  over?: (px: number) => ReactNode;
}

/** The plan of one floor, drawn from the data: rooms, drops, the closet, and how the runs go. */
export function FloorPlan(props: PlanProps) {
  const { floor, layout, drawing = false } = props;
  const { id, outcome, chosen, kinds } = useWork();
  const frame = useRef<HTMLDivElement>(null);
  const rooms = useMemo(() => layout.rooms.filter((room) => room.floor_id === floor.id), [layout, floor.id]);
  const placed = useMemo(() => layout.drops.filter((drop) => drop.floor_id === floor.id), [layout, floor.id]);
  const drops = useMemo(() => new Map(outcome.project.drops.map((drop) => [drop.id, drop])), [outcome.project.drops]);
  const names = useMemo(() => new Map(outcome.project.rooms.map((room) => [room.id, room])), [outcome.project.rooms]);
  const kindOf = useMemo(() => new Map(kinds.map((kind) => [kind.key, kind])), [kinds]);
  const corners = useMemo(() => rooms.flatMap((room) => spots(room.outline)), [rooms]);
  const { beyond } = props;
  const whole = useMemo(() => around([...corners, ...(beyond ?? [])], MARGIN_M), [corners, beyond]);
  const sight = useView(frame, whole);
  const { view } = sight;
  const acts = usePlanActs(frame, { ...props, rooms, placed, drops, drawing }, sight);

  const px = 1 / view.scale;
  const withCodes = view.scale >= CODE_FROM_PX;
  const room = rooms.find((one) => one.id === chosen.roomId);
  const roving = placed.find((drop) => chosen.drops.has(drop.id)) ?? placed[0];
  const closets = layout.closets.filter((closet) => closet.floor_id === floor.id);
  const entries = layout.entries.filter((entry) => entry.floor_id === floor.id);
  return (
    <Frame
      ref={frame}
      role="group"
      aria-label={w.planOf(floor.name)}
      data-plan={floor.id}
      style={{ cursor: props.putting || props.measuring ? "crosshair" : undefined }}
      onPointerDown={acts.press}
      onPointerMove={acts.move}
      onPointerUp={acts.release}
      onPointerCancel={acts.cancel}
      onKeyDown={acts.keys}
    >
      {/* biome-ignore lint/a11y/noSvgWithoutTitle: the group around it is labelled, and its drops are buttons */}
      <svg viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`} fontSize={12 * px}>
        {floor.picture && (
          <image
            href={`/api/projects/${id}/pictures/${floor.picture}`}
            x={floor.picture_x_m}
            y={floor.picture_y_m}
            width={floor.picture_width_px * floor.picture_m_per_px}
            height={floor.picture_height_px * floor.picture_m_per_px}
            preserveAspectRatio="none"
            opacity={0.55}
          />
        )}
        <Grid view={view} />
        {rooms.map((room) => (
          <g key={room.id} data-room={room.id}>
            <polygon
              className="room"
              points={acts
                .outlineOf(room)
                .map((corner) => corner.join(","))
                .join(" ")}
              data-outside={names.get(room.id)?.outside || undefined}
              data-laid={!room.drawn || undefined}
              data-chosen={room.id === chosen.roomId || undefined}
              fillOpacity={floor.picture ? 0.45 : 1}
            />
          </g>
        ))}
        {rooms.map((room) => {
          const [x, y] = corner(acts.outlineOf(room));
          return (
            <text key={room.id} className="name" x={x + 5 * px} y={y + 14 * px} fontSize={12 * px}>
              {names.get(room.id)?.name}
              <tspan dx={6 * px} opacity={0.8}>
                {area(room.area_m2)}
              </tspan>
            </text>
          );
        })}
        {props.over?.(px)}
        {props.ways
          .filter((way) => chosen.drops.has(way.drop_id))
          .map((way) => (
            <path key={way.drop_id} className="way" data-chosen d={onFloor(way, floor.id)} />
          ))}
        {closets.map((closet) => (
          <g
            key={closet.id}
            data-point={`closet-${closet.id}`}
            transform={`translate(${closet.x_m} ${closet.y_m})`}
            className="closet"
          >
            <rect x={-7 * px} y={-7 * px} width={14 * px} height={14 * px} />
            {withCodes && (
              <text className="code" x={11 * px} y={4 * px} strokeWidth={3 * px} fontWeight={650}>
                {outcome.project.closets.find((one) => one.id === closet.id)?.name}
              </text>
            )}
          </g>
        ))}
        {entries.map((entry) => (
          <g key={entry.id} data-point={`entry-${entry.id}`} transform={`translate(${entry.x_m} ${entry.y_m})`}>
            <rect x={-9 * px} y={-9 * px} width={18 * px} height={18 * px} fill="transparent" />
            <path
              d={`M${-8 * px} 0h${13 * px}m${-5 * px} ${-4 * px}l${5 * px} ${4 * px}l${-5 * px} ${4 * px}`}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={1.6 * px}
            />
            {withCodes && (
              <text className="name" x={9 * px} y={4 * px}>
                {outcome.project.entries.find((one) => one.id === entry.id)?.name}
              </text>
            )}
          </g>
        ))}
        <g style={drawing ? { pointerEvents: "none", opacity: 0.5 } : undefined}>
          {placed.map((spot) => {
            const drop = drops.get(spot.id);
            if (!drop) return null;
            return (
              <OneDrop
                key={spot.id}
                drop={drop}
                spot={spot}
                scale={view.scale}
                chosen={chosen.drops.has(spot.id)}
                tabbable={spot === roving}
                toTheLeft={spot.x_m > view.x + view.width - CODE_PX * px}
                name={drop.label || `${kindOf.get(drop.kind)?.name}, ${names.get(drop.room_id)?.name}`}
                code={withCodes || chosen.drops.has(spot.id) ? (kindOf.get(drop.kind)?.column ?? "") : ""}
              />
            );
          })}
        </g>
        {drawing && room && <Handles room={room.id} outline={acts.outlineOf(room)} px={px} />}
        {props.measuring?.map(([x, y]) => (
          <circle key={`${x}-${y}`} cx={x} cy={y} r={4 * px} fill="var(--clay)" />
        ))}
        {acts.lasso && (
          <rect {...acts.lasso} fill="none" stroke="var(--clay)" strokeWidth={1.4 * px} strokeDasharray={`${4 * px}`} />
        )}
        <ScaleBar view={view} />
      </svg>
    </Frame>
  );
}
