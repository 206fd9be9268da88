import { type PointerEvent, type ReactNode, useMemo, useRef, useState } from "react";
import type { Layout } from "../../api/client";
import { useChosen, useWork } from "../../api/work";
import { length, lengthUnit } from "../../kit/figures";
import { Word } from "../../kit/parts";
import { words } from "../../words";
import { ScaleBar } from "./floorParts";
import { around, type Spot, spots } from "./geometry";
import { DropMark, Frame } from "./marks";
import { useView } from "./useView";

const w = words.section;
const MARGIN_M = 1;
const POST_PX = 6;
const NAMES_SHARE = 0.15;
const NAMES_FROM_PX = 8;
const BUILDING_NAME_PX = 90;

/** The building cut open: floors as layers with their heights, every run over, down and round as it will be pulled. */
export function Section(props: {
  layout: Layout;
  ways: readonly { drop_id: number; corners: readonly (readonly number[])[] }[];
  /** Paths to draw at their heights; pressing one chooses it. */
  paths?: readonly { path_id: number; line: readonly (readonly number[])[] }[];
  /** What else stands with the words over it. */
  more?: ReactNode;
}) {
  const { layout } = props;
  const { outcome, kinds, choose } = useWork();
  const chosen = useChosen();
  const { floors, rooms, buildings } = outcome.project;
  const frame = useRef<HTMLDivElement>(null);
  const extents = useMemo(() => {
    const corners = layout.rooms.flatMap((room) => spots(room.outline));
    const box = around(corners, 0);
    return { along: box.width, across: box.height };
  }, [layout]);
  const [asked, setAsked] = useState<0 | 1 | null>(null);
  // the cut that spreads the site most, until another one is asked for
  const axis = asked ?? (extents.along >= extents.across ? 0 : 1);

  const level = new Map(layout.storeys.map((storey) => [storey.id, storey.elevation_m]));
  const layers = floors.map((floor) => {
    const here = layout.rooms.filter((room) => room.floor_id === floor.id);
    const ends = here.flatMap((room) => spots(room.outline).map((spot) => spot[axis]));
    return {
      floor,
      rooms: here,
      from: Math.min(...ends),
      to: Math.max(...ends),
      bottom: level.get(floor.id) ?? 0,
      open: floor.building_id == null,
    };
  });
  const drawn = layers.filter((layer) => layer.rooms.length > 0);
  const bare = around(
    drawn.flatMap((layer): Spot[] => [
      [layer.from, -layer.bottom],
      [layer.to, -(layer.bottom + layer.floor.height_m + (layer.open ? 0 : layer.floor.slab_m))],
    ]),
    MARGIN_M,
  );
  // the names of the floors stand to the left of them
  const names = bare.width * NAMES_SHARE;
  const whole = { ...bare, x: bare.x - names, width: bare.width + names };
  const { view, zoom, pan, fit } = useView(frame, whole);
  const px = 1 / view.scale;
  const grabbed = useRef<Spot | null>(null);
  const drops = new Map(outcome.project.drops.map((drop) => [drop.id, drop]));
  const roomNames = new Map(rooms.map((room) => [room.id, room.name]));
  const kindNames = new Map(kinds.map((kind) => [kind.key, kind.name]));

  const press = (event: PointerEvent) => {
    const number = Number((event.target as Element).closest("[data-drop]")?.getAttribute("data-drop") ?? 0);
    const path = Number((event.target as Element).closest("[data-path]")?.getAttribute("data-path") ?? 0);
    if (path && !number) {
      choose({ path, drops: new Set() });
    } else if (number) {
      const drop = drops.get(number);
      choose({ drops: new Set([number]), roomId: drop?.room_id ?? null, kind: drop?.kind ?? null });
    } else {
      grabbed.current = [event.clientX, event.clientY];
    }
  };
  return (
    <>
      <div className="tools">
        <span>{w.lead}</span>
        <Word onPress={() => setAsked(axis === 0 ? 1 : 0)}>{axis === 0 ? w.across : w.along}</Word>
        <Word onPress={fit}>{words.plan.fit}</Word>
        {props.more}
      </div>
      <Frame
        role="region"
        ref={frame}
        aria-label={w.title}
        onPointerDown={press}
        onPointerMove={(event: PointerEvent) => {
          if (!grabbed.current) return;
          pan(event.clientX - grabbed.current[0], event.clientY - grabbed.current[1]);
          grabbed.current = [event.clientX, event.clientY];
        }}
        onPointerUp={() => {
          grabbed.current = null;
        }}
        onDoubleClick={() => zoom(1.5)}
      >
        {/* biome-ignore lint/a11y/noSvgWithoutTitle: the section around it is labelled, and its drops are buttons */}
        <svg viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`} fontSize={12 * px}>
          <rect x={view.x} y={0} width={view.width} height={Math.max(0, view.y + view.height)} fill="var(--earth)" />
          <line x1={view.x} x2={view.x + view.width} y1={0} y2={0} stroke="var(--ink)" strokeWidth={2 * px} />
          {drawn.map((layer) => {
            const top = layer.bottom + layer.floor.height_m;
            return (
              <g key={layer.floor.id}>
                {!layer.open && (
                  <>
                    <rect
                      x={layer.from}
                      y={-top}
                      width={layer.to - layer.from}
                      height={layer.floor.height_m}
                      fill="var(--paper)"
                      stroke="var(--ink)"
                      strokeWidth={1.5 * px}
                    />
                    <rect
                      x={layer.from}
                      y={-(top + layer.floor.slab_m)}
                      width={layer.to - layer.from}
                      height={layer.floor.slab_m}
                      fill="var(--solid)"
                      opacity={0.75}
                    />
                  </>
                )}
                {layout.openings
                  .filter((opening) => opening.floor_id === layer.floor.id)
                  .map((opening) => {
                    const ends = [opening.start[axis] ?? 0, opening.end[axis] ?? 0];
                    return (
                      <rect
                        key={`opening-${opening.id}`}
                        x={Math.min(...ends)}
                        y={-(layer.bottom + opening.head_m)}
                        width={Math.max(Math.abs((ends[1] ?? 0) - (ends[0] ?? 0)), 2 * px)}
                        height={opening.head_m - opening.sill_m}
                        fill="none"
                        stroke={opening.kind === "window" ? "var(--slate)" : "var(--faint)"}
                        strokeWidth={px}
                      />
                    );
                  })}
                {layer.rooms.map((room) => {
                  const ends = spots(room.outline).map((spot) => spot[axis]);
                  const from = Math.min(...ends);
                  const to = Math.max(...ends);
                  return (
                    <g key={room.id}>
                      <rect
                        x={from}
                        y={-top}
                        width={to - from}
                        height={layer.floor.height_m}
                        fill={room.id === chosen.roomId ? "var(--earth)" : "none"}
                        fillOpacity={0.8}
                        stroke={layer.open ? "none" : "var(--rule)"}
                        strokeWidth={px}
                      />
                    </g>
                  );
                })}
                {(layer.open || view.scale >= NAMES_FROM_PX) && (
                  <text
                    x={layer.open ? layer.from : layer.from - 8 * px}
                    y={layer.open ? 16 * px : -(layer.bottom + layer.floor.height_m / 2)}
                    textAnchor={layer.open ? "start" : "end"}
                    className="name"
                  >
                    {layer.floor.name}
                    {!layer.open && ` ${length(layer.floor.height_m)} ${lengthUnit()}`}
                  </text>
                )}
              </g>
            );
          })}
          {buildings.map((building) => {
            const mine = drawn.filter((layer) => layer.floor.building_id === building.id);
            if (!mine.length) return null;
            const top = Math.max(...mine.map((layer) => layer.bottom + layer.floor.height_m + layer.floor.slab_m));
            const from = Math.min(...mine.map((layer) => layer.from));
            const atTheEdge = from + BUILDING_NAME_PX * px > view.x + view.width;
            return (
              <text
                key={building.id}
                x={atTheEdge ? Math.max(...mine.map((layer) => layer.to)) : from}
                textAnchor={atTheEdge ? "end" : undefined}
                y={-(top + 6 * px)}
                fontWeight={650}
                fill="var(--ink)"
              >
                {building.name}
              </text>
            );
          })}
          {props.paths?.map((path) => (
            <polyline
              key={path.path_id}
              className="path"
              data-path={path.path_id}
              data-chosen={chosen.path === path.path_id || undefined}
              points={path.line.map((spot) => `${spot[axis]},${-(spot[2] ?? 0)}`).join(" ")}
            >
              <title>{outcome.project.paths.find((one) => one.id === path.path_id)?.name}</title>
            </polyline>
          ))}
          {props.ways.map((way) => (
            <polyline
              key={way.drop_id}
              className="way"
              data-chosen={chosen.drops.has(way.drop_id) || undefined}
              points={way.corners.map((spot) => `${spot[axis]},${-(spot[2] ?? 0)}`).join(" ")}
            />
          ))}
          {layout.closets.map((closet) => (
            <g key={closet.id} className="closet">
              <rect
                x={(axis ? closet.y_m : closet.x_m) - 6 * px}
                y={-(level.get(closet.floor_id) ?? 0) - 1.6}
                width={12 * px}
                height={1.6}
              />
            </g>
          ))}
          {layout.drops.map((spot) => {
            const drop = drops.get(spot.id);
            if (!drop) return null;
            const y = -((level.get(spot.floor_id) ?? 0) + spot.height_m);
            const name = drop.label || `${kindNames.get(drop.kind)}, ${roomNames.get(drop.room_id)}`;
            return (
              // biome-ignore lint/a11y/useSemanticElements: a drop is drawn, an HTML button cannot stand in a drawing
              <g
                key={spot.id}
                data-drop={spot.id}
                role="button"
                aria-label={name}
                aria-pressed={chosen.drops.has(spot.id)}
                tabIndex={-1}
                transform={`translate(${axis ? spot.y_m : spot.x_m} ${y})`}
              >
                <title>{name}</title>
                <circle className="hit" r={9 * px} />
                {chosen.drops.has(spot.id) && <circle className="halo" r={(POST_PX + 4) * px} />}
                <DropMark drop={drop} scale={view.scale * 1.25} />
              </g>
            );
          })}
          <ScaleBar view={view} />
        </svg>
      </Frame>
    </>
  );
}
