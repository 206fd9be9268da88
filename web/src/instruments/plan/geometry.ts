/** Small geometry of drawings, in metres. */

export type Spot = readonly [number, number];

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The smallest box around some spots, with a margin. */
export function around(spots: readonly Spot[], margin: number): Box {
  if (!spots.length) return { x: -margin, y: -margin, width: 10 + 2 * margin, height: 7 + 2 * margin };
  const xs = spots.map((spot) => spot[0]);
  const ys = spots.map((spot) => spot[1]);
  const x = Math.min(...xs) - margin;
  const y = Math.min(...ys) - margin;
  return { x, y, width: Math.max(...xs) - x + margin, height: Math.max(...ys) - y + margin };
}

/** Whether a spot is within an outline (even-odd). */
export function isWithin([x, y]: Spot, outline: readonly Spot[]): boolean {
  let within = false;
  outline.forEach(([ax, ay], place) => {
    const [bx, by] = outline[(place + 1) % outline.length] as Spot;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) within = !within;
  });
  return within;
}

const OFF_THE_WALL_M = 0.1;

/** The spot, drawn to the nearest wall of an outline when that is closer than `reach`. */
export function snappedToWall(spot: Spot, outline: readonly Spot[], reach: number): Spot {
  let best: { distance: number; spot: Spot } = { distance: reach, spot };
  outline.forEach((a, place) => {
    const b = outline[(place + 1) % outline.length] as Spot;
    const along = nearestOn(spot, a, b);
    const distance = Math.hypot(spot[0] - along[0], spot[1] - along[1]);
    if (distance < best.distance) {
      const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
      const side: Spot = [(-(b[1] - a[1]) / length) * OFF_THE_WALL_M, ((b[0] - a[0]) / length) * OFF_THE_WALL_M];
      const one: Spot = [along[0] + side[0], along[1] + side[1]];
      const other: Spot = [along[0] - side[0], along[1] - side[1]];
      best = { distance, spot: isWithin(one, outline) ? one : other };
    }
  });
  return best.spot;
}

function nearestOn([x, y]: Spot, [ax, ay]: Spot, [bx, by]: Spot): Spot {
  const length = (bx - ax) ** 2 + (by - ay) ** 2;
  const part = length ? Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length)) : 0;
  return [ax + part * (bx - ax), ay + part * (by - ay)];
}

/** A figure on a grid. */
export function onGrid(value: number, step: number): number {
  return Math.round(Math.round(value / step) * step * 1000) / 1000;
}

/** A coordinate, drawn to the nearest of some others when it is closer than `reach`, else to the grid. */
export function snappedTo(value: number, others: readonly number[], reach: number, step: number): number {
  let best = { distance: reach, value: onGrid(value, step) };
  for (const other of others) {
    if (Math.abs(other - value) < best.distance) best = { distance: Math.abs(other - value), value: other };
  }
  return best.value;
}

/** Whether an outline is a rectangle along the axes. */
export function isRectangle(outline: readonly Spot[]): boolean {
  return (
    outline.length === 4 &&
    outline.every(([ax, ay], place) => {
      const [bx, by] = outline[(place + 1) % 4] as Spot;
      return ax === bx || ay === by;
    })
  );
}

/** An outline with one corner moved; a rectangle stays one. */
export function withCorner(outline: readonly Spot[], corner: number, to: Spot): Spot[] {
  const from = outline[corner] as Spot;
  if (!isRectangle(outline)) return outline.map((spot, place) => (place === corner ? to : spot));
  return outline.map(([x, y]) => [x === from[0] ? to[0] : x, y === from[1] ? to[1] : y]);
}

/** The pieces of a way that lie on one floor, as the data of an SVG path. */
export function onFloor(
  way: { corners: readonly (readonly number[])[]; floor_ids: readonly number[] },
  floor: number,
): string {
  const pieces: string[] = [];
  way.floor_ids.forEach((on, place) => {
    const [from, to] = [way.corners[place], way.corners[place + 1]];
    if (on !== floor || !from || !to) return;
    pieces.push(way.floor_ids[place - 1] === floor ? `L${to[0]} ${to[1]}` : `M${from[0]} ${from[1]}L${to[0]} ${to[1]}`);
  });
  return pieces.join("");
}

/** Corners as the server tells them: pairs, though its description knows lists alone. */
export function spots(corners: readonly (readonly number[])[]): Spot[] {
  return corners as unknown as Spot[];
}

/** Corners as the server takes them. */
export function corners(spots: readonly Spot[]): number[][] {
  return spots.map(([x, y]) => [x, y]);
}

const LETTER_PX = 5.6;
const LINE_PX = 12;
const CLEAR_PX = 5;

/** A text beside a spot: where it begins, or on the left of it ends, from the middle of its height [px off the spot]. */
export interface Label {
  key: string;
  spot: Spot;
  dx: number;
  dy: number;
  text: string;
  /** It is shown whatever it covers. */
  must?: boolean;
}

const LETTERS_LEAST = 3;

/** A name cut shorter and shorter, for where there is no room for all of it. */
export function shortened(name: string): string[] {
  const cuts = [name.length * 0.7, name.length * 0.5, 6, LETTERS_LEAST].map(Math.floor);
  return cuts
    .filter((letters) => letters >= LETTERS_LEAST && letters < name.length - 1)
    .map((letters) => `${name.slice(0, letters).trimEnd()}…`);
}

/** About how wide a text is [px]. */
function wide(text: string): number {
  return text.length * LETTER_PX;
}

/** The labels, of those in order of weight, that cover no mark and none before them; of several with one key the
 * first that does. */
export function clear(labels: readonly Label[], marks: readonly Spot[], scale: number): ReadonlyMap<string, Label> {
  type Box = readonly [left: number, top: number, right: number, below: number];
  const taken = marks.map(
    ([x, y]): Box => [x * scale - CLEAR_PX, y * scale - CLEAR_PX, x * scale + CLEAR_PX, y * scale + CLEAR_PX],
  );
  const shown = new Map<string, Label>();
  for (const label of labels) {
    const { key, spot, dx, dy, text, must } = label;
    if (!text || shown.has(key)) continue;
    const left = spot[0] * scale + dx - (dx < 0 ? wide(text) : 0);
    const top = spot[1] * scale + dy - LINE_PX / 2;
    const box: Box = [left, top, left + wide(text), top + LINE_PX];
    if (
      !must &&
      taken.some((other) => box[0] < other[2] && box[2] > other[0] && box[1] < other[3] && box[3] > other[1])
    )
      continue;
    taken.push(box);
    shown.set(key, label);
  }
  return shown;
}
