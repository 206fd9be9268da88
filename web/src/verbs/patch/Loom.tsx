import type { KeyboardEvent } from "react";
import styled from "styled-components";
import type { ClosetPatching, Face, PortFace, PortLine } from "../../api/client";
import { useWork } from "../../api/work";
import { words } from "../../words";
import { useThreads } from "./usePatch";

const w = words.patch;
const WIDE = 600;
const LEFT = 26;
const ROW = 19;
const MOST_STEP = 27;

interface Spot {
  x: number;
  y: number;
}

/** The front of a closet as a loom: jacks by room above, positions and ports below, a thread for every cable and cord. */
export function Loom(props: { here: ClosetPatching; chosen: string | null; choose: (key: string | null) => void }) {
  const { here, chosen, choose } = props;
  const { rooms } = useWork().outcome.project;
  const dash = useThreads();
  const jacks = here.lines.filter((line) => line.drop_id != null && line.room_id != null);
  const byRoom = rooms.flatMap((room) => {
    const some = jacks.filter((line) => line.room_id === room.id);
    return some.length ? [{ room, some }] : [];
  });
  const step = Math.min(20, (WIDE - LEFT - (byRoom.length - 1) * 8) / Math.max(1, jacks.length));
  const at = new Map<string, Spot>();
  let x = LEFT;
  const groups = byRoom.map(({ room, some }) => {
    const start = x;
    for (const line of some) {
      at.set(line.key, { x: x + step / 2, y: 44 });
      x += step;
    }
    const end = x;
    x += 8;
    return { room, start, end };
  });
  const panels = here.faces.filter((face) => face.kind === "panel");
  const boxes = here.faces.filter((face) => face.kind !== "panel");
  const lines = new Map(here.lines.map((line) => [line.key, line]));
  let y = 112;
  const tops = new Map<string, number>();
  for (const face of [...panels, ...boxes]) {
    if (face === boxes[0] && panels.length) y += 44;
    tops.set(face.thing, y);
    y += face.rows * ROW + 20;
  }
  const spotOf = (face: Face, port: PortFace): Spot => {
    const wide = Math.min(MOST_STEP, (WIDE - LEFT) / face.columns);
    return { x: LEFT + port.column * wide + wide / 2, y: (tops.get(face.thing) ?? 0) + port.row * ROW + ROW / 2 };
  };
  const positions = new Map<string, Spot>();
  const ports = new Map<string, Spot>();
  for (const face of here.faces)
    for (const port of face.ports)
      if (port.line) (face.kind === "panel" ? positions : ports).set(port.line, spotOf(face, port));
  const go = (event: KeyboardEvent, line: PortLine) => {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (event.key === "Escape") choose(null);
    if (!by) return;
    event.preventDefault();
    const order = here.lines.filter((one) => one.use !== "reserve");
    const next = order[order.findIndex((one) => one.key === line.key) + by];
    if (!next) return;
    choose(next.key);
    document.querySelector<SVGElement>(`[data-line="${CSS.escape(next.key)}"]`)?.focus();
  };
  const pressed = (line: PortLine | undefined, named: string) =>
    line
      ? {
          role: "button",
          tabIndex: line.key === chosen || (!chosen && line === here.lines[0]) ? 0 : -1,
          "aria-label": named,
          "aria-pressed": line.key === chosen,
          "data-line": line.key,
          onClick: () => choose(line.key === chosen ? null : line.key),
          onKeyDown: (event: KeyboardEvent) => {
            if (event.key === "Enter" || event.key === " ") choose(line.key);
            go(event, line);
          },
        }
      : {};
  return (
    <Cloth viewBox={`0 0 ${WIDE} ${y}`} role="group" aria-label={w.front} data-some={chosen ? "" : undefined}>
      <line className="rail" x1={LEFT} x2={WIDE} y1={44} y2={44} />
      {groups.map(({ room, start, end }, place) => (
        <g key={room.id}>
          <title>{room.name}</title>
          <path className="tie" d={`M${start} ${place % 2 ? 33 : 17}V38H${end}`} />
        </g>
      ))}
      {groups.map(({ room, start }, place) => (
        <text key={room.id} className="room" x={start} y={place % 2 ? 30 : 14}>
          {short(room.name, (groups[place + 2]?.start ?? WIDE) - start - 3)}
        </text>
      ))}
      {here.lines.map((line) => (
        <Threads
          key={line.key}
          line={line}
          jack={at.get(line.key)}
          position={positions.get(line.key)}
          port={ports.get(line.key)}
          dash={dash(line.network_id)}
          chosen={line.key === chosen}
        />
      ))}
      {jacks.map((line) => {
        const spot = at.get(line.key);
        return (
          spot && (
            <g key={line.key} {...pressed(line, `${line.label} ${line.name}`)} data-moves={line.moves || undefined}>
              <rect className="jack" x={spot.x - step / 2 + 1} y={38} width={Math.max(4, step - 2)} height={12} />
              {line.watts > 0 && <path className="power" d={`M${spot.x} 41v6`} />}
            </g>
          )
        );
      })}
      {here.faces.map((face) => (
        <g key={face.thing}>
          <title>{face.name}</title>
          <text className="short" x={0} y={(tops.get(face.thing) ?? 0) + (face.rows * ROW) / 2 + 5}>
            {face.short}
          </text>
          <text className="name" x={LEFT} y={(tops.get(face.thing) ?? 0) - 3}>
            {face.name}
          </text>
          {face.ports.map((port) => {
            const spot = spotOf(face, port);
            const line = lines.get(port.line);
            const wide = Math.min(MOST_STEP, (WIDE - LEFT) / face.columns);
            const named = `${face.short}${face.kind === "panel" ? " " : "/"}${port.name}: ${line ? told(line) : w.free}`;
            return (
              <g key={port.name} {...pressed(line, named)} data-use={line?.use ?? "free"}>
                <title>{named}</title>
                <rect
                  x={spot.x - wide / 2 + 1}
                  y={spot.y - ROW / 2 + 1}
                  width={wide - 2}
                  height={ROW - 2}
                  data-power={port.poe_class != null || undefined}
                />
                <text className="port" x={spot.x} y={spot.y + 4.2}>
                  {port.name}
                </text>
              </g>
            );
          })}
        </g>
      ))}
    </Cloth>
  );
}

/** What a line is, in a few words. */
export function told(line: PortLine): string {
  if (line.use === "reserve") return w.keptFor(line.kind.replace("_", " "));
  if (line.drop_id != null) return line.label === line.name ? line.name : `${line.label} ${line.name}`;
  return `${w.uses[line.use]} ${line.name}`;
}

/** The cable from the jack to its position, and the cord from there to its port; where it has to move, lifted. */
function Threads(props: {
  line: PortLine;
  jack: Spot | undefined;
  position: Spot | undefined;
  port: Spot | undefined;
  dash: string;
  chosen: boolean;
}) {
  const { jack, position, port } = props;
  const start = position ?? jack;
  if (!start) return null;
  const hang = (one: Spot, other: Spot, from: number, to: number) =>
    `M${one.x} ${one.y + from}C${one.x} ${one.y + from + 26} ${other.x} ${other.y - to - 26} ${other.x} ${other.y - to}`;
  return (
    <g className="threads" data-chosen={props.chosen || undefined} data-moves={props.line.moves || undefined}>
      {jack && position && <path className="cable" d={hang(jack, position, 6, 8)} />}
      {port && <path d={hang(start, port, position ? 9 : 6, 8)} strokeDasharray={props.dash || undefined} />}
    </g>
  );
}

/** A name as long as it has room. */
function short(name: string, wide: number): string {
  const most = Math.floor(wide / 6.4);
  return name.length <= most ? name : most > 3 ? `${name.slice(0, most - 1)}…` : "";
}

const Cloth = styled.svg`
  display: block; width: 100%; min-width: 560px; height: auto; font: 12px var(--data); font-stretch: 80%;
  .rail { stroke: var(--ink); }
  .room, .name { fill: var(--faint); paint-order: stroke; stroke: var(--paper); stroke-width: 4px; }
  .tie { fill: none; stroke: var(--rule); }
  .short { font: 600 15px var(--voice); fill: var(--ink); }
  .port { text-anchor: middle; fill: var(--ink); pointer-events: none; }
  rect { fill: var(--sheet); stroke: var(--ink); stroke-width: 0.9; }
  [data-use="free"] rect { stroke: var(--faint); stroke-dasharray: 1.5 2; }
  [data-use="free"] .port { fill: var(--faint); }
  [data-use="reserve"] rect { fill: url(#hatching); }
  [data-use="link"] rect, [data-use="uplink"] rect, [data-use="feed"] rect { fill: var(--earth); stroke: var(--slate); }
  rect[data-power] { stroke: var(--clay); stroke-width: 1.2; }
  .power { stroke: var(--clay); stroke-width: 2; }
  .threads path { fill: none; stroke: var(--ink); stroke-width: 0.9; opacity: 0.45; pointer-events: none; }
  .threads .cable { stroke: var(--slate); stroke-width: 0.6; }
  .threads[data-moves] path { stroke: var(--ochre); stroke-width: 1.6; opacity: 1; }
  &[data-some] .threads path { opacity: 0.14; }
  &[data-some] .threads[data-chosen] path { opacity: 1; stroke: var(--clay); stroke-width: 2.2; }
  [role="button"] { cursor: pointer; outline: none; }
  [role="button"]:hover rect { fill: var(--earth); }
  [aria-pressed="true"] rect { fill: var(--clay); stroke: var(--clay); }
  [aria-pressed="true"] .port { fill: var(--sheet); }
  [role="button"]:focus-visible rect { stroke: var(--clay); stroke-width: 2.4; }
`;
