import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import styled from "styled-components";
import type { Closet, ClosetStack, Thing } from "../../api/client";
import { useWork } from "../../api/work";
import { Frame } from "../../instruments/plan/marks";
import { useView } from "../../instruments/plan/useView";
import { words } from "../../words";
import { short } from "./short";
import { useSayOfThing } from "./useStack";

const w = words.stack;
const UNIT = 44.45;
const CORD = 75;
const STEP = 10;
const MARGIN = 60;

/** A wall panel by its face, or a shelf with a wall plate: boxes to scale, dragged or moved by the arrow keys. */
export function FlatDrawing(props: {
  closet: Closet;
  here: ClosetStack;
  chosen: string | null;
  choose: (key: string | null) => void;
}) {
  const { closet, here, chosen, choose } = props;
  const { outcome } = useWork();
  const say = useSayOfThing();
  const frame = useRef<HTMLDivElement>(null);
  const grabbed = useRef<{ thing: Thing; from: readonly [number, number]; at: readonly [number, number] } | null>(null);
  const [dragged, setDragged] = useState<{ key: string; x: number; y: number } | null>(null);
  const isPanel = closet.housing === "panel";
  const wide = closet.panel_width_mm ?? 440;
  const high = closet.panel_height_mm ?? Math.round((closet.units ?? 4) * UNIT);
  const whole = { x: -MARGIN, y: -MARGIN, width: wide + 2 * MARGIN, height: high + 2 * MARGIN };
  const { view } = useView(frame, whole);
  const px = 1 / view.scale;
  const broken = new Set(here.broken.filter((one) => one.rule !== "place").flatMap((one) => one.things));
  const blocks = (outcome.project.panel_blocks ?? []).filter((one) => one.closet_id === closet.id);

  const placed = new Map(
    outcome.project.placings?.filter((one) => one.closet_id === closet.id).map((one) => [one.thing, one]),
  );
  const size = (thing: Thing): [number, number] => {
    if (!isPanel) return [thing.width_mm, thing.height_mm];
    const deep = thing.depth_mm + (thing.plug !== "none" || thing.corded > 0 ? CORD : 0);
    return placed.get(thing.key)?.turned ? [deep, thing.width_mm] : [thing.width_mm, deep];
  };
  /** As it is said, which the stack hears of a moment later. */
  const spot = (thing: Thing): [number, number] | null => {
    if (dragged?.key === thing.key) return [dragged.x, dragged.y];
    const said = placed.get(thing.key);
    if (said?.x_mm == null || said.y_mm == null) return null;
    return [said.x_mm, isPanel ? said.y_mm : high - thing.height_mm];
  };
  const kept = (thing: Thing, x: number, y: number): [number, number] => {
    const [across, down] = size(thing);
    return [Math.max(0, Math.min(wide - across, x)), isPanel ? Math.max(0, Math.min(high - down, y)) : high - down];
  };
  const press = (event: PointerEvent, thing: Thing) => {
    if (thing.fixed) return choose(thing.key);
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    grabbed.current = { thing, from: [event.clientX, event.clientY], at: spot(thing) ?? [0, 0] };
  };
  const move = (event: PointerEvent) => {
    if (!grabbed.current) return;
    const { thing, from, at } = grabbed.current;
    const [x, y] = [event.clientX * px, event.clientY * px];
    const [left, top] = at;
    const snapped = (value: number) => Math.round(value / STEP) * STEP;
    const [nextX, nextY] = kept(thing, snapped(left + x - from[0] * px), snapped(top + y - from[1] * px));
    setDragged({ key: thing.key, x: nextX, y: nextY });
  };
  const drop = async () => {
    const held = grabbed.current;
    grabbed.current = null;
    // chosen once it is let go: what opens then does not move the drawing under the pointer
    if (held) choose(held.thing.key);
    if (held && dragged) await say(held.thing, { x_mm: Math.round(dragged.x), y_mm: Math.round(dragged.y) });
    setDragged(null);
  };
  const key = (event: KeyboardEvent, thing: Thing) => {
    if (event.key === "t" && isPanel) say(thing, { turned: !placed.get(thing.key)?.turned });
    if (event.key === "p") say(thing, { fixed: !thing.fixed });
    const by = { ArrowUp: [0, -STEP], ArrowDown: [0, STEP], ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0] }[event.key];
    if (!by || thing.fixed) return;
    event.preventDefault();
    const [left, top] = spot(thing) ?? [0, 0];
    const [x, y] = kept(thing, left + (by[0] ?? 0), top + (by[1] ?? 0));
    say(thing, { x_mm: Math.round(x), y_mm: Math.round(y) });
  };
  return (
    <Frame role="region" ref={frame} aria-label={closet.name}>
      <Drawn viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`} fontSize={12 * px}>
        <text x={0} y={-10 * px} className="head">
          {isPanel ? w.face : w.shelf}
        </text>
        <rect className="panel" width={wide} height={high} />
        {blocks.map((block) => (
          <g key={block.id}>
            <rect className="block" x={block.x_mm} y={block.y_mm} width={block.width_mm} height={block.height_mm} />
            <text x={block.x_mm + 4 * px} y={block.y_mm + 14 * px} className="head">
              {block.name}
            </text>
          </g>
        ))}
        {here.things.map((thing) => {
          const at = spot(thing);
          const [across, down] = size(thing);
          if (!at) return null;
          return (
            // biome-ignore lint/a11y/useSemanticElements: a thing of a drawing
            <g
              key={thing.key}
              role="button"
              tabIndex={0}
              aria-label={thing.name}
              aria-pressed={thing.key === chosen}
              data-thing={thing.key}
              data-chosen={thing.key === chosen || undefined}
              data-broken={broken.has(thing.key) || undefined}
              onPointerDown={(event) => press(event, thing)}
              onPointerMove={move}
              onPointerUp={drop}
              onKeyDown={(event) => key(event, thing)}
            >
              <rect className="thing" x={at[0]} y={at[1]} width={across} height={down} />
            </g>
          );
        })}
        {/* names are cut to their room: they stand beside the things, which say them whole */}
        <g className="names">
          {here.things.map((thing) => {
            const at = spot(thing);
            return (
              at && (
                <text key={thing.key} x={at[0] + 5 * px} y={at[1] + 15 * px} strokeWidth={3 * px}>
                  {short(thing.name, size(thing)[0] * view.scale - 8)}
                </text>
              )
            );
          })}
        </g>
      </Drawn>
    </Frame>
  );
}

const Drawn = styled.svg`
  .panel { fill: var(--paper); stroke: var(--ink); stroke-width: 2; vector-effect: non-scaling-stroke; }
  .block { fill: var(--solid); opacity: 0.55; }
  .thing { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.2; vector-effect: non-scaling-stroke; }
  .head { fill: var(--faint); }
  text { fill: var(--ink); paint-order: stroke; stroke: var(--sheet); stroke-width: 0; font-stretch: 88%; }
  .names { pointer-events: none; }
  [data-thing] { cursor: grab; outline: none; }
  [data-chosen] .thing { stroke: var(--clay); stroke-width: 2.6; }
  [data-broken] .thing { stroke: var(--clay); fill: color-mix(in srgb, var(--clay) 16%, var(--sheet)); }
  [data-thing]:focus-visible .thing { stroke: var(--clay); stroke-width: 3; }
`;
