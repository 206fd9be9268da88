import { type ReactNode, useMemo, useRef } from "react";
import type { Floor, KindLine, Layout } from "../../api/client";
import { useChosen, useWork } from "../../api/work";
import { words } from "../../words";
import { area, corner, Grid, Handles, OneDrop, OpeningLine, ScaleBar, WallLine } from "./floorParts";
import { around, clear, type Label, onFloor, type Spot, shortened, spots } from "./geometry";
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
  putting?: { kind: KindLine["key"]; ownKind: number | null } | null;
  /** Two points are asked for, to scale the picture under the plan. */
  measuring?: readonly Spot[] | null;
  onMeasured?: (spot: Spot) => void;
  /** Corners outside the rooms that must be in sight too. */
  beyond?: readonly Spot[];
  /** Names of what else is drawn, each where it covers no other. */
  called?: readonly { key: string; spot: Spot; text: string }[];
  /** What else is drawn over the rooms, given the metres of a pixel. */
  over?: (px: number) => ReactNode;
}

/** The plan of one floor, drawn from the data: rooms, drops, the closet, and how the runs go. */
export function FloorPlan(props: PlanProps) {
  const { floor, layout, drawing = false } = props;
  const { id, outcome, kinds } = useWork();
  const chosen = useChosen();
  const frame = useRef<HTMLDivElement>(null);
  const rooms = useMemo(() => layout.rooms.filter((room) => room.floor_id === floor.id), [layout, floor.id]);
  const placed = useMemo(() => layout.drops.filter((drop) => drop.floor_id === floor.id), [layout, floor.id]);
  const drops = useMemo(() => new Map(outcome.project.drops.map((drop) => [drop.id, drop])), [outcome.project.drops]);
  const names = useMemo(() => new Map(outcome.project.rooms.map((room) => [room.id, room])), [outcome.project.rooms]);
  const kindOf = useMemo(() => new Map<string, KindLine>(kinds.map((kind) => [kind.key, kind])), [kinds]);
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
  const closetName = (number: number) => outcome.project.closets.find((one) => one.id === number)?.name ?? "";
  const entryName = (number: number) => outcome.project.entries.find((one) => one.id === number)?.name ?? "";
  const codeOf = (number: number) => kindOf.get(drops.get(number)?.kind ?? "")?.column ?? "";
  const at = ({ x_m, y_m }: { x_m: number; y_m: number }): Spot => [x_m, y_m];
  /** Both sides of a spot, the right one first where there is room for it. */
  const beside = (key: string, spot: Spot, dx: number, dy: number, text: string): Label[] => {
    const sides = [dx, -dx].map((off) => ({ key, spot, dx: off, dy, text }));
    return spot[0] > view.x + view.width - CODE_PX * px ? sides.reverse() : sides;
  };
  const code = (spot: Layout["drops"][number]) => beside(`drop-${spot.id}`, at(spot), 8, -9, codeOf(spot.id));
  const held = ([first, ...more]: Label[]): Label[] => (first ? [first, ...more, { ...first, must: true }] : []);
  /** The name of a room in its corner, or under what stands there; with its area where that has a place. */
  const roomName = (one: (typeof rooms)[number]): Label[] => {
    const name = names.get(one.id)?.name ?? "";
    const label = { key: `room-${one.id}`, spot: corner(acts.outlineOf(one)), dx: 5 };
    const whole = [`${name} ${area(one.area_m2)}`, name];
    return [...whole, ...shortened(name)].flatMap((text) => [10, 26].map((dy) => ({ ...label, dy, text })));
  };
  const closetAt = (one: (typeof closets)[number]): Label[] =>
    [0, 14].flatMap((dy) => beside(`closet-${one.id}`, at(one), 11, dy, closetName(one.id)));
  const isChosen = (spot: { id: number }) => chosen.drops.has(spot.id);
  /** A name beside its spot, over it or under it. */
  const calledAt = ({ key, spot, text }: { key: string; spot: Spot; text: string }): Label[] =>
    held([-9, 11, -23, 25].flatMap((dy) => beside(key, spot, 8, dy, text)));
  const called = props.called ?? [];
  const shown = clear(
    [
      ...placed.filter(isChosen).flatMap((spot) => held(code(spot))),
      ...(withCodes ? closets.flatMap((one) => held(closetAt(one))) : []),
      ...called.flatMap(calledAt),
      ...rooms.flatMap(roomName),
      ...(withCodes ? entries.flatMap((one) => beside(`entry-${one.id}`, at(one), 9, 0, entryName(one.id))) : []),
      ...(withCodes ? placed.filter((spot) => !isChosen(spot)).flatMap(code) : []),
    ],
    [...placed, ...closets].map(at),
    view.scale,
  );
  const anchored = (label: Label | undefined) => ({
    x: (label?.dx ?? 0) * px,
    y: ((label?.dy ?? 0) + 4) * px,
    textAnchor: label && label.dx < 0 ? ("end" as const) : undefined,
  });
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
        <g opacity={drawing ? 0.15 : 0.45}>
          {layout.walls
            .filter((wall) => wall.floor_id === floor.id)
            .map((wall) => (
              <WallLine key={`${wall.start.join()} ${wall.end.join()}`} wall={wall} px={px} />
            ))}
        </g>
        {layout.openings
          .filter((opening) => opening.floor_id === floor.id)
          .map((opening) => (
            <OpeningLine key={opening.id} opening={opening} px={px} />
          ))}
        {props.over?.(px)}
        {called.map(({ key, spot, text }) => {
          const { x, y, textAnchor } = anchored(shown.get(key));
          return (
            <text
              key={key}
              className="code"
              x={spot[0] + x}
              y={spot[1] + y}
              textAnchor={textAnchor}
              strokeWidth={3 * px}
              fontWeight={600}
              pointerEvents="none"
            >
              {text}
            </text>
          );
        })}
        {rooms.map((room) => {
          const label = shown.get(`room-${room.id}`);
          const name = names.get(room.id)?.name ?? "";
          if (!label) return null;
          return (
            <text
              key={room.id}
              className="name"
              x={label.spot[0] + label.dx * px}
              y={label.spot[1] + (label.dy + 4) * px}
              fontSize={12 * px}
              strokeWidth={3 * px}
            >
              {label.text.startsWith(name) ? name : label.text}
              {label.text !== name && label.text.startsWith(name) && (
                <tspan dx={6 * px} opacity={0.8}>
                  {area(room.area_m2)}
                </tspan>
              )}
            </text>
          );
        })}
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
            {shown.has(`closet-${closet.id}`) && (
              <text
                className="code"
                {...anchored(shown.get(`closet-${closet.id}`))}
                strokeWidth={3 * px}
                fontWeight={650}
              >
                {closetName(closet.id)}
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
            {shown.has(`entry-${entry.id}`) && (
              <text className="name" {...anchored(shown.get(`entry-${entry.id}`))}>
                {entryName(entry.id)}
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
                toTheLeft={(shown.get(`drop-${spot.id}`)?.dx ?? 0) < 0}
                name={drop.label || `${kindOf.get(drop.kind)?.name}, ${names.get(drop.room_id)?.name}`}
                code={shown.has(`drop-${spot.id}`) ? codeOf(spot.id) : ""}
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
