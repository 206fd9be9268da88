import type { Drop, Layout } from "../../api/client";
import { length, lengthUnit } from "../../kit/figures";
import type { Spot } from "./geometry";
import { DropMark } from "./marks";

const SQUARE_FOOT_M2 = 0.3048 ** 2;

/** What is in sight, and how many pixels a metre has. */
export interface Sight {
  x: number;
  y: number;
  width: number;
  height: number;
  scale: number;
}

/** A drop on the plan: its mark, and its code where there is room for it. */
export function OneDrop(props: {
  drop: Drop;
  spot: Layout["drops"][number];
  scale: number;
  chosen: boolean;
  tabbable: boolean;
  name: string;
  code: string;
  /** Near the right edge its code stands to the left. */
  toTheLeft: boolean;
}) {
  const px = 1 / props.scale;
  // who speaks what is seen must be understood: the code on the plan is part of the name
  const named = props.name.toLowerCase().split(/[^\p{L}\p{N}]+/u);
  const spoken = props.code && !named.includes(props.code.toLowerCase()) ? `${props.name}, ${props.code}` : props.name;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drop is drawn, an HTML button cannot stand in a drawing
    <g
      data-drop={props.drop.id}
      role="button"
      aria-pressed={props.chosen}
      aria-label={spoken}
      tabIndex={props.tabbable ? 0 : -1}
      transform={`translate(${props.spot.x_m} ${props.spot.y_m})`}
    >
      <title>{props.name}</title>
      <circle className="hit" r={12 * px} />
      {props.chosen && <circle className="halo" r={10 * px} />}
      <DropMark drop={props.drop} scale={props.scale} />
      {props.code && (
        <text
          className="code"
          x={(props.toTheLeft ? -8 : 8) * px}
          y={-5 * px}
          strokeWidth={3 * px}
          textAnchor={props.toTheLeft ? "end" : undefined}
        >
          {props.code}
        </text>
      )}
    </g>
  );
}

/** What a room is drawn with: its corners, and between them the middles from which a new corner is drawn out. */
export function Handles({ room, outline, px }: { room: number; outline: readonly Spot[]; px: number }) {
  return (
    <g data-room={room}>
      {outline.map(([x, y], place) => {
        const [nx, ny] = outline[(place + 1) % outline.length] as Spot;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a corner is its place in the outline
          <g key={place}>
            <circle className="handle" data-edge={place} cx={(x + nx) / 2} cy={(y + ny) / 2} r={4 * px} />
            <rect
              className="handle"
              data-corner={place}
              x={x - 5 * px}
              y={y - 5 * px}
              width={10 * px}
              height={10 * px}
            />
          </g>
        );
      })}
    </g>
  );
}

/** A piece of wall, as thick as it is, and never so thin that it is lost. */
export function WallLine({ wall, px }: { wall: Layout["walls"][number]; px: number }) {
  const [[x1, y1], [x2, y2]] = [wall.start, wall.end];
  const width = Math.max(wall.thickness_mm / 1000, 1.6 * px);
  return <line className="wall" x1={x1} y1={y1} x2={x2} y2={y2} strokeWidth={width} data-wall={wall.wall_id ?? ""} />;
}

/** An opening in its wall: the wall is open there, a window a double line, what is closed a thin one. */
export function OpeningLine({ opening, px }: { opening: Layout["openings"][number]; px: number }) {
  const [[x1 = 0, y1 = 0], [x2 = 0, y2 = 0]] = [opening.start, opening.end];
  const ends = { x1, y1, x2, y2 };
  return (
    <g pointerEvents="none" data-opening={opening.id}>
      <line {...ends} stroke="var(--sheet)" strokeWidth={7 * px} />
      <line
        {...ends}
        stroke={opening.kind === "window" ? "var(--slate)" : "var(--ink)"}
        strokeWidth={(opening.kind === "window" ? 3 : 1.4) * px}
        strokeDasharray={opening.see_through && opening.kind !== "window" ? `${2 * px} ${3 * px}` : undefined}
      />
    </g>
  );
}

/** Lines a metre or five apart. */
export function Grid({ view }: { view: Sight }) {
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
export function ScaleBar({ view }: { view: Sight }) {
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

/** The upper left corner of an outline, where the name of a room stands. */
export function corner(outline: readonly Spot[]): Spot {
  return outline.reduce((best, spot) => (spot[0] + spot[1] * 1.001 < best[0] + best[1] * 1.001 ? spot : best));
}

/** An area as the project writes it. */
export function area(squareMetres: number): string {
  return lengthUnit() === "m" ? `${length(squareMetres, 1)} m²` : `${Math.round(squareMetres / SQUARE_FOOT_M2)} sq ft`;
}
