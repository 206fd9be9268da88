import { exact, typedFigure } from "./figures";

/** Corners as they are typed: x y; x y, in metres. */
export const cornersText = (points: readonly (readonly number[])[]) =>
  points.map((spot) => spot.map(exact).join(" ")).join("; ");

/** Typed corners; null where they are none. */
export function cornersOf(text: string): number[][] | null {
  const points = text.split(";").map((pair) => pair.trim().split(/\s+/).map(typedFigure));
  return points.every((pair) => pair.length === 2 && pair.every(Number.isFinite)) ? points : null;
}
