import type { ViewLine } from "../../api/client";
import { DETAILS } from "./useCover";

/** Between two hachures of the thinnest band [deg]; every further detail has twice as many. */
const STEP_DEG = 5.6;

/** Rings as the data of an SVG path, to be filled even-odd. */
export function ringsPath(rings: readonly (readonly (readonly number[])[])[]): string {
  return rings.map((ring) => `M${ring.map((spot) => `${spot[0]} ${spot[1]}`).join("L")}Z`).join("");
}

/** Straight strokes from a spot over some angles [rad], the more the greater the detail; a band has those of its own. */
export function strokes(band: number, from: number, to: number, reach: number): string {
  const step = (STEP_DEG * Math.PI) / 180 / 2 ** band;
  const first = Math.ceil(from / step);
  const last = Math.floor(to / step);
  const lines: string[] = [];
  for (let number = first; number <= last; number += 1) {
    // every other one is there already, drawn for less detail
    if (band > 0 && number % 2 === 0) continue;
    const turn = number * step;
    lines.push(`M0 0L${(Math.cos(turn) * reach).toFixed(3)} ${(Math.sin(turn) * reach).toFixed(3)}`);
  }
  return lines.join("");
}

/** The hachures of a view on the plan, by band, about its lens: x along its bearing, y to the right. */
export function fanStrokes(view: ViewLine): string[] {
  const half = Math.min((view.across_deg / 2) * (Math.PI / 180) * (view.tilt_deg > 45 ? 2 : 1.15), Math.PI);
  return DETAILS.map((_, band) => strokes(band, -half, half, view.bands[band]?.reach_m ?? 0));
}
