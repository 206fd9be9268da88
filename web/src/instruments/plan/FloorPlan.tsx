import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import type { Drop, Floor, Layout } from "../../api/client";
import { useWork } from "../../api/work";
import { length, lengthUnit } from "../../kit/figures";
import { words } from "../../words";
import { around, type Box, isWithin, onGrid, type Spot, snappedTo, snappedToWall, withCorner } from "./geometry";
import { DropMark, Frame } from "./marks";
import { useView } from "./useView";

const w = words.plan;
const STEP_M = 0.05;
const ROOM_STEP_M = 0.1;
const WALL_REACH_M = 0.3;
const NUDGE_M = 0.1;
const MOVED_PX = 3;
const CODE_FROM_PX = 22;
const MARGIN_M = 0.8;

type PlacedRoom = Layout["rooms"][number];
type PlacedDrop = Layout["drops"][number];

export interface PlanProps {
  floor: Floor;
  layout: Layout;
  ways: readonly { drop_id: number; corners: readonly (readonly number[])[] }[];
  /** Rooms are moved and sized, drops rest. */
  drawing?: boolean;
  /** A kind of drop that a press puts down. */
  putting?: { kind: string; ownKind: number | null } | null;
  /** Two points are asked for, to scale the picture under the plan. */
  measuring?: readonly Spot[] | null;
  onMeasured?: (spot: Spot) => void;
  onPut?: () => void;
}

type Act =
  | { type: "pan"; at: Spot; moved: boolean }
  | { type: "drops"; from: Spot; grabbed: PlacedDrop; ids: number[]; moved: boolean; by: Spot }
  | { type: "room"; from: Spot; room: PlacedRoom; corner: number | null; outline: Spot[]; moved: boolean }
  | { type: "point"; what: "closet" | "entry"; id: number; from: Spot; at: Spot; moved: boolean }
  | { type: "lasso"; from: Spot; to: Spot };

/** The plan of one floor, drawn from the data: rooms, drops, the closet, and how the runs go. */
export function FloorPlan(props: PlanProps) {
  const { floor, layout, drawing = false } = props;
  const { id, outcome, chosen, choose, edit, say, kinds } = useWork();
  const frame = useRef<HTMLDivElement>(null);
  const act = useRef<Act | null>(null);
  const [lasso, setLasso] = useState<Box | null>(null);
  const [outlines, setOutlines] = useState<ReadonlyMap<number, Spot[]>>(new Map());

  const rooms = useMemo(() => layout.rooms.filter((room) => room.floor_id === floor.id), [layout, floor.id]);
  const placed = useMemo(() => layout.drops.filter((drop) => drop.floor_id === floor.id), [layout, floor.id]);
  const drops = useMemo(() => new Map(outcome.project.drops.map((drop) => [drop.id, drop])), [outcome.project.drops]);
  const names = useMemo(() => new Map(outcome.project.rooms.map((room) => [room.id, room])), [outcome.project.rooms]);
  const kindOf = useMemo(() => new Map(kinds.map((kind) => [kind.key, kind])), [kinds]);
  const whole = useMemo(
    () =>
      around(
        rooms.flatMap((room) => room.outline as unknown as Spot[]),
        MARGIN_M,
      ),
    [rooms],
  );
  const { view, zoom, pan, fit, hold, spotOf } = useView(frame, whole);
  // what was dragged stays where it was let go until the server has said so
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new layout ends the waiting
  useEffect(() => setOutlines(new Map()), [layout]);

  const outlineOf = (room: PlacedRoom) => outlines.get(room.id) ?? (room.outline as unknown as Spot[]);
  const roomAt = (spot: Spot) => rooms.find((room) => isWithin(spot, room.outline as unknown as Spot[]));
  const group = (number: number) => frame.current?.querySelector<SVGGElement>(`[data-drop="${number}"]`);
  const shift = (ids: readonly number[], [dx, dy]: Spot) => {
    for (const number of ids) {
      const spot = placed.find((one) => one.id === number);
      if (spot) group(number)?.setAttribute("transform", `translate(${spot.x_m + dx} ${spot.y_m + dy})`);
    }
  };

  /** Keep the drops where they are now, moved by so much; one that leaves every room goes back. */
  const settle = async (ids: readonly number[], [dx, dy]: Spot) => {
    const places = placed
      .filter((drop) => ids.includes(drop.id))
      .map((drop) => {
        const spot: Spot = [onGrid(drop.x_m + dx, 0.001), onGrid(drop.y_m + dy, 0.001)];
        const room = roomAt(spot) ?? null;
        return { id: drop.id, room_id: room?.id ?? 0, x_m: spot[0], y_m: spot[1] };
      });
    const homeless = places.some((place) => place.room_id === 0);
    if (homeless) say(w.noRoom);
    if (homeless || !(await edit({ type: "place_drops", places }))) shift(ids, [0, 0]);
  };

  const press = (event: PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0) return;
    const target = event.target as Element;
    const spot = spotOf(event);
    const number = Number(target.closest("[data-drop]")?.getAttribute("data-drop") ?? 0);
    const roomId = Number(target.closest("[data-room]")?.getAttribute("data-room") ?? 0);
    const corner = target.getAttribute("data-corner");
    const point = target.closest("[data-point]")?.getAttribute("data-point");
    if (props.measuring) {
      props.onMeasured?.(spot);
      return;
    }
    if (props.putting) {
      put(spot);
      return;
    }
    frame.current?.setPointerCapture(event.pointerId);
    if (number && !drawing) {
      const spotted = placed.find((drop) => drop.id === number);
      if (!spotted) return;
      const ids = event.shiftKey
        ? toggled(chosen.drops, number)
        : chosen.drops.has(number)
          ? [...chosen.drops]
          : [number];
      choose({
        drops: new Set(ids),
        roomId: drops.get(number)?.room_id ?? null,
        kind: drops.get(number)?.kind ?? null,
      });
      group(number)?.focus({ preventScroll: true });
      const here = ids.filter((one) => placed.some((drop) => drop.id === one));
      act.current = { type: "drops", from: spot, grabbed: spotted, ids: here, moved: false, by: [0, 0] };
    } else if (point && !drawing) {
      const [what, which] = point.split("-") as ["closet" | "entry", string];
      const list = what === "closet" ? layout.closets : layout.entries;
      const spotted = list.find((one) => one.id === Number(which));
      if (!spotted) return;
      act.current = { type: "point", what, id: spotted.id, from: spot, at: [spotted.x_m, spotted.y_m], moved: false };
    } else if (roomId && drawing) {
      const room = rooms.find((one) => one.id === roomId);
      if (!room) return;
      choose({ roomId, kind: null, drops: new Set() });
      hold();
      const outline = [...outlineOf(room)];
      act.current = {
        type: "room",
        from: spot,
        room,
        corner: corner === null ? null : Number(corner),
        outline,
        moved: false,
      };
    } else if (event.shiftKey) {
      act.current = { type: "lasso", from: spot, to: spot };
    } else {
      act.current = { type: "pan", at: [event.clientX, event.clientY], moved: false };
    }
  };

  const move = (event: PointerEvent<HTMLDivElement>) => {
    const now = act.current;
    if (!now) return;
    const spot = spotOf(event);
    switch (now.type) {
      case "pan": {
        const by: Spot = [event.clientX - now.at[0], event.clientY - now.at[1]];
        if (!now.moved && Math.hypot(...by) < MOVED_PX) return;
        pan(...by);
        act.current = { type: "pan", at: [event.clientX, event.clientY], moved: true };
        return;
      }
      case "lasso":
        now.to = spot;
        setLasso(around([now.from, spot], 0));
        return;
      case "drops": {
        const by: Spot = [spot[0] - now.from[0], spot[1] - now.from[1]];
        if (!now.moved && Math.hypot(...by) * view.scale < MOVED_PX) return;
        now.moved = true;
        const target: Spot = [now.grabbed.x_m + by[0], now.grabbed.y_m + by[1]];
        const room = roomAt(target);
        const snapped =
          room && !event.altKey
            ? snappedToWall(
                [onGrid(target[0], STEP_M), onGrid(target[1], STEP_M)],
                room.outline as unknown as Spot[],
                drops.get(now.grabbed.id)?.place.includes("ceiling") ? 0 : WALL_REACH_M,
              )
            : target;
        now.by = [snapped[0] - now.grabbed.x_m, snapped[1] - now.grabbed.y_m];
        shift(now.ids, now.by);
        return;
      }
      case "point": {
        const by: Spot = [spot[0] - now.from[0], spot[1] - now.from[1]];
        if (!now.moved && Math.hypot(...by) * view.scale < MOVED_PX) return;
        now.moved = true;
        const [x, y] = [onGrid(now.at[0] + by[0], STEP_M), onGrid(now.at[1] + by[1], STEP_M)];
        frame.current
          ?.querySelector(`[data-point="${now.what}-${now.id}"]`)
          ?.setAttribute("transform", `translate(${x} ${y})`);
        return;
      }
      case "room": {
        const by: Spot = [spot[0] - now.from[0], spot[1] - now.from[1]];
        if (!now.moved && Math.hypot(...by) * view.scale < MOVED_PX) return;
        now.moved = true;
        const others = rooms.filter((room) => room.id !== now.room.id).flatMap((room) => outlineOf(room));
        now.outline = redrawn(now.room, now.corner, by, others);
        setOutlines(new Map([[now.room.id, now.outline]]));
        return;
      }
    }
  };

  const release = async (event: PointerEvent<HTMLDivElement>) => {
    const now = act.current;
    act.current = null;
    if (!now) return;
    switch (now.type) {
      case "pan":
        if (!now.moved) {
          const room = roomAt(spotOf(event));
          choose({ drops: new Set(), roomId: room?.id ?? null, kind: null });
        }
        return;
      case "lasso": {
        const box = around([now.from, now.to], 0);
        const caught = placed.filter(
          ({ x_m, y_m }) => x_m >= box.x && x_m <= box.x + box.width && y_m >= box.y && y_m <= box.y + box.height,
        );
        setLasso(null);
        choose({ drops: new Set(caught.map((drop) => drop.id)), kind: null });
        return;
      }
      case "drops":
        if (now.moved) await settle(now.ids, now.by);
        return;
      case "point": {
        if (!now.moved) return;
        const spot = spotOf(event);
        const at = {
          x_m: onGrid(now.at[0] + spot[0] - now.from[0], STEP_M),
          y_m: onGrid(now.at[1] + spot[1] - now.from[1], STEP_M),
        };
        const room = roomAt([at.x_m, at.y_m]);
        const kept =
          room &&
          (await (now.what === "closet"
            ? edit({ type: "change_closet", id: now.id, changes: { ...at, room_id: room.id } })
            : edit({ type: "change_entry", list: "entries", id: now.id, changes: { ...at, room_id: room.id } })));
        if (!room) say(w.noRoom);
        if (!kept) {
          const back = `translate(${now.at[0]} ${now.at[1]})`;
          frame.current?.querySelector(`[data-point="${now.what}-${now.id}"]`)?.setAttribute("transform", back);
        }
        return;
      }
      case "room":
        if (!now.moved) return;
        if (!(await edit({ type: "change_room", id: now.room.id, changes: { outline: now.outline as never } }))) {
          setOutlines(new Map());
        }
        return;
    }
  };

  const put = async (spot: Spot) => {
    const room = roomAt(spot);
    const { putting } = props;
    if (!room || !putting) {
      say(w.noRoom);
      return;
    }
    const [x_m, y_m] = snappedToWall(
      [onGrid(spot[0], STEP_M), onGrid(spot[1], STEP_M)],
      room.outline as unknown as Spot[],
      WALL_REACH_M,
    );
    await edit({
      type: "add_drops",
      room: room.id,
      kind: putting.kind as never,
      own_kind_id: putting.ownKind,
      count: 1,
      changes: { x_m, y_m },
    });
    props.onPut?.();
  };

  const keys = (event: KeyboardEvent<HTMLDivElement>) => {
    const ids = [...chosen.drops].filter((number) => placed.some((drop) => drop.id === number));
    const step = event.shiftKey ? NUDGE_M * 10 : NUDGE_M;
    const nudges: Record<string, Spot> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const nudge = nudges[event.key];
    if (event.ctrlKey || event.metaKey) return;
    if (nudge && ids.length) settle(ids, nudge);
    else if ((event.key === "Delete" || event.key === "Backspace") && ids.length) edit({ type: "remove_drops", ids });
    else if (event.key === "d" && ids.length) edit({ type: "duplicate_drops", ids, aside_m: 0.5 });
    else if (event.key === "PageDown" || event.key === "PageUp") {
      const at = placed.findIndex((drop) => chosen.drops.has(drop.id));
      const next = placed[(at + (event.key === "PageDown" ? 1 : placed.length - 1) + placed.length) % placed.length];
      if (next) {
        choose({ drops: new Set([next.id]), roomId: drops.get(next.id)?.room_id ?? null, kind: null });
        group(next.id)?.focus();
      }
    } else if (event.key === "+" || event.key === "=") zoom(1.3);
    else if (event.key === "-") zoom(1 / 1.3);
    else if (event.key === "0") fit();
    else if (event.key === "Escape") choose({ drops: new Set() });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const px = 1 / view.scale;
  const withCodes = view.scale >= CODE_FROM_PX;
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
      onPointerDown={press}
      onPointerMove={move}
      onPointerUp={release}
      onPointerCancel={() => {
        act.current = null;
        setLasso(null);
      }}
      onKeyDown={keys}
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
              points={outlineOf(room)
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
          const [x, y] = corner(outlineOf(room));
          return (
            <text key={room.id} className="name" x={x + 5 * px} y={y + 14 * px} fontSize={12 * px}>
              {names.get(room.id)?.name}
              <tspan dx={6 * px} opacity={0.8}>
                {area(room.area_m2)}
              </tspan>
            </text>
          );
        })}
        {props.ways
          .filter((way) => chosen.drops.has(way.drop_id))
          .map((way) => (
            <polyline
              key={way.drop_id}
              className="way"
              data-chosen
              points={way.corners.map((spot) => `${spot[0]},${spot[1]}`).join(" ")}
            />
          ))}
        {closets.map((closet) => (
          <g
            key={closet.id}
            data-point={`closet-${closet.id}`}
            transform={`translate(${closet.x_m} ${closet.y_m})`}
            className="closet"
          >
            <rect x={-7 * px} y={-7 * px} width={14 * px} height={14 * px} />
            <text className="code" x={11 * px} y={4 * px} fontWeight={650}>
              {outcome.project.closets[0]?.name}
            </text>
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
            <text className="name" x={9 * px} y={4 * px}>
              {outcome.project.entries.find((one) => one.id === entry.id)?.name}
            </text>
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
                name={drop.label || `${kindOf.get(drop.kind)?.name}, ${names.get(drop.room_id)?.name}`}
                code={withCodes || chosen.drops.has(spot.id) ? (kindOf.get(drop.kind)?.column ?? "") : ""}
              />
            );
          })}
        </g>
        {drawing &&
          rooms
            .filter((room) => room.id === chosen.roomId)
            .flatMap((room) =>
              outlineOf(room).map(([x, y], place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a corner is its place in the outline
                <g key={`${room.id}-${place}`} data-room={room.id}>
                  <rect
                    className="handle"
                    data-corner={place}
                    x={x - 5 * px}
                    y={y - 5 * px}
                    width={10 * px}
                    height={10 * px}
                  />
                </g>
              )),
            )}
        {props.measuring?.map(([x, y]) => (
          <circle key={`${x}-${y}`} cx={x} cy={y} r={4 * px} fill="var(--clay)" />
        ))}
        {lasso && (
          <rect {...lasso} fill="none" stroke="var(--clay)" strokeWidth={1.4 * px} strokeDasharray={`${4 * px}`} />
        )}
        <ScaleBar view={view} />
      </svg>
    </Frame>
  );
}

function OneDrop(props: {
  drop: Drop;
  spot: PlacedDrop;
  scale: number;
  chosen: boolean;
  tabbable: boolean;
  name: string;
  code: string;
}) {
  const px = 1 / props.scale;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drop is drawn, an HTML button cannot stand in a drawing
    <g
      data-drop={props.drop.id}
      role="button"
      aria-pressed={props.chosen}
      aria-label={props.name}
      tabIndex={props.tabbable ? 0 : -1}
      transform={`translate(${props.spot.x_m} ${props.spot.y_m})`}
    >
      <title>{props.name}</title>
      <circle className="hit" r={12 * px} />
      {props.chosen && <circle className="halo" r={10 * px} />}
      <DropMark drop={props.drop} scale={props.scale} />
      {props.code && (
        <text className="code" x={8 * px} y={-5 * px} strokeWidth={3 * px}>
          {props.code}
        </text>
      )}
    </g>
  );
}

function Grid({ view }: { view: { x: number; y: number; width: number; height: number; scale: number } }) {
  const step = view.scale > 14 ? 1 : 5;
  const lines = [];
  for (let x = Math.ceil(view.x / step) * step; x < view.x + view.width; x += step) {
    lines.push(<line key={`x${x}`} className="grid" x1={x} x2={x} y1={view.y} y2={view.y + view.height} />);
  }
  for (let y = Math.ceil(view.y / step) * step; y < view.y + view.height; y += step) {
    lines.push(<line key={`y${y}`} className="grid" y1={y} y2={y} x1={view.x} x2={view.x + view.width} />);
  }
  return <g>{lines}</g>;
}

/** How long a stretch of the drawing is in truth. */
export function ScaleBar({ view }: { view: { x: number; y: number; width: number; height: number; scale: number } }) {
  const metres = [0.5, 1, 2, 5, 10, 20, 50].find((candidate) => candidate * view.scale > 60) ?? 100;
  const px = 1 / view.scale;
  const x = view.x + 12 * px;
  const y = view.y + view.height - 12 * px;
  return (
    <g>
      <path
        d={`M${x} ${y - 4 * px}v${4 * px}h${metres}v${-4 * px}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.2 * px}
      />
      <text x={x} y={y - 7 * px} className="name" fontSize={12 * px}>
        {length(metres)} {lengthUnit()}
      </text>
    </g>
  );
}

function redrawn(room: PlacedRoom, corner: number | null, [dx, dy]: Spot, others: readonly Spot[]): Spot[] {
  const outline = room.outline as unknown as Spot[];
  const xs = others.map((spot) => spot[0]);
  const ys = others.map((spot) => spot[1]);
  const snap = ([x, y]: Spot): Spot => [
    snappedTo(x, xs, WALL_REACH_M, ROOM_STEP_M),
    snappedTo(y, ys, WALL_REACH_M, ROOM_STEP_M),
  ];
  if (corner !== null) {
    const [x, y] = outline[corner] as Spot;
    return withCorner(outline, corner, snap([x + dx, y + dy]));
  }
  const [x, y] = outline[0] as Spot;
  const [sx, sy] = snap([x + dx, y + dy]);
  return outline.map(([ox, oy]) => [onGrid(ox + sx - x, 0.001), onGrid(oy + sy - y, 0.001)]);
}

function toggled(set: ReadonlySet<number>, number: number): number[] {
  return set.has(number) ? [...set].filter((one) => one !== number) : [...set, number];
}

function corner(outline: readonly Spot[]): Spot {
  return outline.reduce((best, spot) => (spot[0] + spot[1] * 1.001 < best[0] + best[1] * 1.001 ? spot : best));
}

function area(squareMetres: number): string {
  return lengthUnit() === "m" ? `${length(squareMetres, 1)} m²` : `${length(squareMetres / 0.3048, 0)} sq ft`;
}
