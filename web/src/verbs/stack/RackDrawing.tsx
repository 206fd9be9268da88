import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import styled from "styled-components";
import type { Closet, ClosetStack, Thing } from "../../api/client";
import { useWork } from "../../api/work";
import { Frame } from "../../instruments/plan/marks";
import { useView } from "../../instruments/plan/useView";
import { words } from "../../words";
import { RackPlace } from "./RackPlace";
import { short } from "./short";
import { useSayOfThing } from "./useStack";

const w = words.stack;
const UNIT = 44.45;
const WIDE = 482.6;
const GAP = 150;
const MARGIN = 60;
const CORD = 75;
const WARM_W = 25;
/** Between the lines of a hatch [mm], the heaviest last. */
const DENSITIES = [22, 13, 7];

/** A rack from the front and from the side: a thing is dragged from unit to unit, or moved by the arrow keys. */
export function RackDrawing(props: {
  closet: Closet;
  here: ClosetStack;
  chosen: string | null;
  choose: (key: string | null) => void;
}) {
  const { closet, here, chosen, choose } = props;
  const say = useSayOfThing();
  const frame = useRef<HTMLDivElement>(null);
  const [dragged, setDragged] = useState<{ key: string; unit: number } | null>(null);
  const grabbed = useRef<{ thing: Thing; from: number; unit: number } | null>(null);
  const { placings } = useWork().outcome.project;
  const placed = new Map(placings?.filter((one) => one.closet_id === closet.id).map((one) => [one.thing, one.unit]));
  const units = closet.units ?? 9;
  const deep = closet.depth_mm ?? 450;
  const cords = closet.cord_space_mm ?? 60;
  const high = units * UNIT;
  const side = WIDE + GAP;
  const whole = { x: -MARGIN, y: -MARGIN, width: side + cords + deep + 2 * MARGIN, height: high + 1.5 * MARGIN };
  const { view } = useView(frame, whole);
  const px = 1 / view.scale;
  /** As it is said, which the stack hears of a moment later. */
  const at = (thing: Thing) => (dragged?.key === thing.key ? dragged.unit : (placed.get(thing.key) ?? null));
  const within = (thing: Thing, unit: number) => Math.max(1, Math.min(units - thing.units + 1, unit));
  const broken = new Set(here.broken.filter((one) => one.rule !== "place").flatMap((one) => one.things));

  const press = (event: PointerEvent, thing: Thing) => {
    if (thing.fixed || !thing.units) return choose(thing.key);
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    grabbed.current = { thing, from: event.clientY, unit: at(thing) ?? 1 };
  };
  const move = (event: PointerEvent) => {
    if (!grabbed.current) return;
    const { thing, from, unit } = grabbed.current;
    const by = Math.round(((from - event.clientY) * px) / UNIT);
    setDragged({ key: thing.key, unit: within(thing, unit + by) });
  };
  const drop = async () => {
    const held = grabbed.current;
    grabbed.current = null;
    // chosen once it is let go: what opens then does not move the drawing under the pointer
    if (held) choose(held.thing.key);
    if (!held || !dragged || dragged.unit === held.unit) return setDragged(null);
    await put(held.thing, dragged.unit);
  };
  /** It is shown where it goes until that is saved, so that a second press goes on from there. */
  const put = async (thing: Thing, unit: number) => {
    setDragged({ key: thing.key, unit });
    await say(thing, { unit, on: "" });
    setDragged((now) => (now?.key === thing.key && now.unit === unit ? null : now));
  };
  const key = (event: KeyboardEvent, thing: Thing) => {
    const step = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (event.key === "p") say(thing, { fixed: !thing.fixed });
    if (!step || !thing.units || thing.fixed) return;
    event.preventDefault();
    const now = at(thing);
    const next = now == null ? 1 : within(thing, now + step);
    if (next !== now) put(thing, next);
  };
  const hands = (thing: Thing) => ({
    role: "button",
    tabIndex: 0,
    "aria-label": at(thing) ? `${thing.name}, ${w.unit(at(thing) ?? 1)}` : thing.name,
    "aria-pressed": thing.key === chosen,
    "data-thing": thing.key,
    "data-chosen": thing.key === chosen || undefined,
    "data-broken": broken.has(thing.key) || undefined,
    "data-fixed": thing.fixed || undefined,
    onPointerDown: (event: PointerEvent) => press(event, thing),
    onPointerMove: move,
    onPointerUp: drop,
    onKeyDown: (event: KeyboardEvent) => key(event, thing),
  });
  const holding = new Set(here.things.map((thing) => thing.on));
  const shelves = new Map(here.things.map((one) => [one.key, one]));
  const standing = here.things.filter((thing) => thing.units > 0 && at(thing) != null);
  return (
    <Frame role="region" ref={frame} aria-label={closet.name}>
      <Drawn viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`} fontSize={12 * px}>
        <defs>
          {DENSITIES.map((step, place) => (
            <pattern
              key={step}
              id={`mass-${place}`}
              width={step}
              height={step}
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <line className="mass" y2={step} />
            </pattern>
          ))}
        </defs>
        <text x={0} y={-14 * px} className="head">
          {w.front}
        </text>
        <text x={side} y={-14 * px} className="head">
          {w.side}
        </text>
        <rect className="rack" width={WIDE} height={high} />
        <rect className="rack" x={side} width={cords + deep} height={high} />
        <RackPlace closet={closet} left={side} right={side + cords + deep} high={high} px={px} />
        <line className="rail" x1={side + cords} x2={side + cords} y2={high} />
        {Array.from({ length: units }, (_, number) => number + 1).map((unit) => (
          <g key={unit}>
            <line className="unit" x2={WIDE} y1={high - unit * UNIT} y2={high - unit * UNIT} />
            <line className="unit" x1={side} x2={side + cords + deep} y1={high - unit * UNIT} y2={high - unit * UNIT} />
            <text x={-7 * px} y={high - (unit - 0.5) * UNIT + 4 * px} className="number">
              {unit}
            </text>
          </g>
        ))}
        {standing.map((thing) => {
          const top = high - ((at(thing) ?? 1) - 1 + thing.units) * UNIT;
          const tall = thing.units * UNIT;
          const isFront = thing.face === "front";
          const x = isFront ? side + cords : side + cords + deep - thing.depth_mm;
          return (
            <g key={thing.key} {...hands(thing)}>
              {isFront && <rect className="thing" y={top + 1} width={WIDE} height={tall - 2} data-kind={thing.kind} />}
              <rect
                className="thing"
                x={x}
                y={top + 1}
                width={Math.max(thing.depth_mm, 8)}
                height={tall - 2}
                data-kind={thing.kind}
              />
              {massOf(thing) != null && (
                <rect
                  x={x}
                  y={top + 1}
                  width={Math.max(thing.depth_mm, 8)}
                  height={tall - 2}
                  fill={`url(#mass-${massOf(thing)})`}
                />
              )}
              {thing.mains_w - thing.away_w >= WARM_W && (
                <path className="air" d={rising(x + thing.depth_mm / 2, top, thing.mains_w - thing.away_w)} />
              )}
              {!thing.hangs && (
                <path
                  className="cords"
                  d={isFront ? `M${x + thing.depth_mm} ${top + tall / 2}h${CORD}` : `M${x} ${top + tall / 2}h${-CORD}`}
                />
              )}
            </g>
          );
        })}
        {here.things
          .filter((thing) => !thing.units)
          .map((thing) => {
            const shelf = shelves.get(thing.on);
            const unit = shelf && at(shelf);
            if (!unit) return null;
            const floor = high - (unit - 1) * UNIT - 3;
            return (
              <g key={thing.key} {...hands(thing)}>
                <rect
                  className="thing loose"
                  x={20 + (thing.x_mm ?? 0)}
                  y={floor - thing.height_mm}
                  width={thing.width_mm}
                  height={thing.height_mm}
                />
                <rect
                  className="thing loose"
                  x={side + cords}
                  y={floor - thing.height_mm}
                  width={thing.depth_mm}
                  height={thing.height_mm}
                />
              </g>
            );
          })}
        {/* names are cut to their room: they stand beside the things, which say them whole */}
        <g className="names">
          {here.things.map((thing) => {
            const on = thing.units ? thing : shelves.get(thing.on);
            const unit = on && at(on);
            if (!unit || on.face !== "front" || holding.has(thing.key)) return null;
            const floor = high - (unit - 1) * UNIT;
            const [x, y, room] = thing.units
              ? [8 * px, floor - (thing.units * UNIT) / 2, WIDE * view.scale - 16]
              : [26 + (thing.x_mm ?? 0), floor - 3 - thing.height_mm / 2, thing.width_mm * view.scale - 8];
            return (
              <text key={thing.key} x={x} y={y + 4 * px} strokeWidth={3 * px}>
                {thing.fixed && thing.units ? "● " : ""}
                {short(thing.name, room)}
              </text>
            );
          })}
        </g>
      </Drawn>
    </Frame>
  );
}

/** How dense the hatch of a thing is by its mass for each unit; null: it is light. */
function massOf(thing: Thing): number | null {
  const kg = thing.mass_kg / thing.units;
  return kg < 2 ? null : kg < 4 ? 0 : kg < 8 ? 1 : 2;
}

/** Strokes that rise from a warm thing, one for each 25 W, five at the most. */
function rising(x: number, top: number, watts: number): string {
  const many = Math.min(5, Math.ceil(watts / WARM_W));
  return Array.from({ length: many }, (_, n) => `M${x + (n - (many - 1) / 2) * 26} ${top + 4}q-7 -8 0 -16t0 -16`).join(
    "",
  );
}

const Drawn = styled.svg`
  .rack { fill: var(--paper); stroke: var(--ink); stroke-width: 2; vector-effect: non-scaling-stroke; }
  .rail { stroke: var(--ink); stroke-width: 1; stroke-dasharray: 5 3; vector-effect: non-scaling-stroke; }
  .unit { stroke: var(--rule); stroke-width: 0.7; vector-effect: non-scaling-stroke; }
  .place path { stroke: var(--slate); stroke-width: 1.4; fill: none; vector-effect: non-scaling-stroke; }
  .place circle { fill: var(--sheet); stroke: var(--ink); vector-effect: non-scaling-stroke; }
  .end { text-anchor: end; }
  .number { fill: var(--faint); text-anchor: end; }
  .head { fill: var(--faint); }
  .thing { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.2; vector-effect: non-scaling-stroke; }
  .thing[data-kind="router"], .thing[data-kind="switch"] { fill: var(--earth); }
  .thing[data-kind="ups"] { fill: var(--earth); stroke-width: 2.4; }
  .thing[data-kind="panel"], .thing[data-kind="manager"] { stroke-dasharray: 4 2; }
  .mass { stroke: var(--ink); stroke-width: 1.6; opacity: 0.55; }
  .air { stroke: var(--clay); stroke-width: 1.6; fill: none; vector-effect: non-scaling-stroke; }
  .cords { stroke: var(--slate); stroke-width: 4; stroke-dasharray: 2 3; fill: none; vector-effect: non-scaling-stroke; }
  text { fill: var(--ink); paint-order: stroke; stroke: var(--sheet); stroke-width: 0; font-stretch: 88%; }
  .names { pointer-events: none; }
  [data-thing] { cursor: grab; outline: none; }
  [data-fixed] { cursor: default; }
  [data-chosen] .thing { stroke: var(--clay); stroke-width: 2.6; }
  [data-broken] .thing { stroke: var(--clay); fill: color-mix(in srgb, var(--clay) 16%, var(--sheet)); }
  [data-thing]:focus-visible .thing { stroke: var(--clay); stroke-width: 3; }
`;
