import {
  type KeyboardEvent,
  type PointerEvent,
  type RefObject,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
} from "react";
import type { Drop, KindLine, Layout } from "../../api/client";
import { useChosen, useWork } from "../../api/work";
import { words } from "../../words";
import {
  around,
  type Box,
  corners,
  isWithin,
  onGrid,
  type Spot,
  snappedTo,
  snappedToWall,
  spots,
  withCorner,
} from "./geometry";
import type { useView } from "./useView";

const w = words.plan;
const STEP_M = 0.05;
const ROOM_STEP_M = 0.1;
const WALL_REACH_M = 0.3;
const NUDGE_M = 0.1;
const MOVED_PX = 3;
const LEAST_CORNERS = 3;

type PlacedRoom = Layout["rooms"][number];
type PlacedDrop = Layout["drops"][number];

type Act =
  | { type: "pan"; at: Spot; moved: boolean }
  | { type: "drops"; from: Spot; grabbed: PlacedDrop; ids: number[]; moved: boolean; by: Spot }
  | { type: "room"; from: Spot; room: PlacedRoom; corner: number | null; outline: Spot[]; moved: boolean }
  | { type: "point"; what: "closet" | "entry"; id: number; from: Spot; at: Spot; moved: boolean }
  | { type: "lasso"; from: Spot; to: Spot };

/** What a floor holds, and how it is worked on. */
export interface Scene {
  layout: Layout;
  rooms: readonly PlacedRoom[];
  placed: readonly PlacedDrop[];
  drops: ReadonlyMap<number, Drop>;
  /** Rooms are moved and sized, drops rest. */
  drawing: boolean;
  /** A kind of drop that a press puts down. */
  putting?: { kind: KindLine["key"]; ownKind: number | null } | null;
  /** Two points are asked for, to scale the picture under the plan. */
  measuring?: readonly Spot[] | null;
  onMeasured?: (spot: Spot) => void;
}

/** What pointer and keys do on a plan: choose, drag, put, catch, nudge, double; draw rooms; look closer. */
export function usePlanActs(frame: RefObject<HTMLDivElement | null>, scene: Scene, sight: ReturnType<typeof useView>) {
  const { layout, rooms, placed, drops, drawing } = scene;
  const { view, zoom, pan, fit, hold, spotOf } = sight;
  const { edit, say, saving, choose } = useWork();
  const chosen = useChosen();
  const act = useRef<Act | null>(null);
  const [lasso, setLasso] = useState<Box | null>(null);
  const [outlines, setOutlines] = useState<ReadonlyMap<number, Spot[]>>(new Map());
  // what was dragged stays where it was let go until the server has said so
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new layout ends the waiting
  useEffect(() => setOutlines(new Map()), [layout]);

  const outlineOf = (room: PlacedRoom) => outlines.get(room.id) ?? spots(room.outline);
  const roomAt = (spot: Spot) => rooms.find((room) => isWithin(spot, spots(room.outline)));
  const group = (number: number) => frame.current?.querySelector<SVGGElement>(`[data-drop="${number}"]`);
  // where drops were put that the layout does not know of yet: the next step starts from there
  const ahead = useRef(new Map<number, Spot>());
  const spotOfDrop = (drop: PlacedDrop): Spot => ahead.current.get(drop.id) ?? [drop.x_m, drop.y_m];
  const shift = (ids: readonly number[], [dx, dy]: Spot) => {
    for (const drop of placed.filter((one) => ids.includes(one.id))) {
      const [x, y] = spotOfDrop(drop);
      group(drop.id)?.setAttribute("transform", `translate(${x + dx} ${y + dy})`);
    }
  };
  const stillSaving = useRef(saving);
  stillSaving.current = saving;
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new layout is what this answers
  useLayoutEffect(() => {
    if (!stillSaving.current) ahead.current.clear();
    for (const [number, [x, y]] of ahead.current) {
      const drawn = frame.current?.querySelector(`[data-drop="${number}"]`);
      drawn?.setAttribute("transform", `translate(${x} ${y})`);
    }
  }, [placed, frame]);

  /** Keep the drops where they are now, moved by so much; one that leaves every room goes back. */
  const settle = async (ids: readonly number[], [dx, dy]: Spot) => {
    const moved = placed.filter((drop) => ids.includes(drop.id));
    const places = moved.map((drop) => {
      const [x, y] = spotOfDrop(drop);
      const spot: Spot = [onGrid(x + dx, 0.001), onGrid(y + dy, 0.001)];
      return { id: drop.id, room_id: roomAt(spot)?.id ?? 0, x_m: spot[0], y_m: spot[1] };
    });
    if (places.some((place) => place.room_id === 0)) {
      say(w.noRoom);
      shift(ids, [0, 0]);
      return;
    }
    for (const { id, x_m, y_m } of places) ahead.current.set(id, [x_m, y_m]);
    shift(ids, [0, 0]);
    if (!(await edit({ type: "place_drops", places }))) {
      for (const { id } of places) ahead.current.delete(id);
      shift(ids, [0, 0]);
    }
  };

  /** Give a room a new outline; one that cannot be goes back. */
  const redraw = async (id: number, outline: Spot[]) => {
    setOutlines(new Map([[id, outline]]));
    if (!(await edit({ type: "change_room", id, changes: { outline: corners(outline) } }))) setOutlines(new Map());
  };

  const press = (event: PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0) return;
    const target = event.target as Element;
    const spot = spotOf(event);
    const number = Number(target.closest("[data-drop]")?.getAttribute("data-drop") ?? 0);
    const roomId = Number(target.closest("[data-room]")?.getAttribute("data-room") ?? 0);
    const corner = target.getAttribute("data-corner");
    const point = target.closest("[data-point]")?.getAttribute("data-point");
    if (scene.measuring) {
      scene.onMeasured?.(spot);
      return;
    }
    if (scene.putting) {
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
      const [x_m, y_m] = spotOfDrop(spotted);
      const grabbed = { ...spotted, x_m, y_m };
      act.current = { type: "drops", from: spot, grabbed, ids: here, moved: false, by: [0, 0] };
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
      const edge = target.getAttribute("data-edge");
      const at = corner === null ? null : Number(corner);
      if (at !== null && event.shiftKey && outline.length > LEAST_CORNERS) {
        redraw(room.id, outline.toSpliced(at, 1));
        return;
      }
      if (edge === null) {
        act.current = {
          type: "room",
          from: spot,
          room: { ...room, outline: corners(outline) },
          corner: at,
          outline,
          moved: false,
        };
      } else {
        // a new corner is drawn out of the middle of an edge
        const drawn = outline.toSpliced(Number(edge) + 1, 0, spot);
        act.current = {
          type: "room",
          from: spot,
          room: { ...room, outline: corners(drawn) },
          corner: Number(edge) + 1,
          outline: drawn,
          moved: false,
        };
      }
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
                spots(room.outline),
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
          (await edit({
            type: "change_entry",
            list: now.what === "closet" ? "closets" : "entries",
            id: now.id,
            changes: { ...at, room_id: room.id },
          }));
        if (!room) say(w.noRoom);
        if (!kept) {
          const back = `translate(${now.at[0]} ${now.at[1]})`;
          frame.current?.querySelector(`[data-point="${now.what}-${now.id}"]`)?.setAttribute("transform", back);
        }
        return;
      }
      case "room":
        if (!now.moved) return;
        redraw(now.room.id, now.outline);
        return;
    }
  };

  const put = async (spot: Spot) => {
    const room = roomAt(spot);
    const { putting } = scene;
    if (!room || !putting) {
      say(w.noRoom);
      return;
    }
    const [x_m, y_m] = snappedToWall(
      [onGrid(spot[0], STEP_M), onGrid(spot[1], STEP_M)],
      spots(room.outline),
      WALL_REACH_M,
    );
    await edit({
      type: "add_drops",
      room: room.id,
      kind: putting.kind,
      own_kind_id: putting.ownKind,
      count: 1,
      changes: { x_m, y_m },
    });
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

  const cancel = () => {
    act.current = null;
    setLasso(null);
  };
  return { press, move, release, cancel, keys, lasso, outlineOf };
}

function redrawn(room: PlacedRoom, corner: number | null, [dx, dy]: Spot, others: readonly Spot[]): Spot[] {
  const outline = spots(room.outline);
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
