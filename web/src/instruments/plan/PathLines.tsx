import { type PointerEvent, useRef, useState } from "react";
import styled from "styled-components";
import type { Path } from "../../api/client";
import { changeIn } from "../../api/edits";
import { useChosen, useWork } from "../../api/work";
import { corners, onGrid, type Spot, spots } from "./geometry";

const STEP_M = 0.1;

/** Paths of one floor over the plan: pressed to choose one; a chosen one is bent by its corners. */
export function PathLines({ floor, px, growing }: { floor: number; px: number; growing: readonly Spot[] | null }) {
  const { outcome, edit, choose } = useWork();
  const chosen = useChosen();
  const [bent, setBent] = useState<{ id: number; points: Spot[] } | null>(null);
  const held = useRef<number | null>(null);
  const here = outcome.project.paths.filter((path) => path.floor_id === floor);
  const landing = outcome.project.paths.filter((path) => path.to_floor_id === floor);
  const pointsOf = (path: Path) => (bent?.id === path.id ? bent.points : spots(path.points));

  const spotOf = (event: PointerEvent<SVGElement>): Spot => {
    const svg = event.currentTarget.ownerSVGElement;
    const matrix = svg?.getScreenCTM()?.inverse();
    const spot = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return [onGrid(spot.x, STEP_M), onGrid(spot.y, STEP_M)];
  };
  const grab = (event: PointerEvent<SVGElement>, path: Path, corner: number) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = corner;
    setBent({ id: path.id, points: [...spots(path.points)] });
  };
  const bend = (event: PointerEvent<SVGElement>) => {
    const corner = held.current;
    if (corner === null || !bent) return;
    setBent({ ...bent, points: bent.points.with(corner, spotOf(event)) });
  };
  const settle = async () => {
    if (held.current === null || !bent) return;
    held.current = null;
    const { id, points } = bent;
    await edit(changeIn("paths", id, { points: corners(points) }));
    setBent(null);
  };
  return (
    <Lines>
      {here.map((path) => {
        const points = pointsOf(path);
        const last = points.at(-1) as Spot;
        const mine = chosen.path === path.id;
        return (
          <g key={path.id} data-path={path.id} data-chosen={mine || undefined} data-kind={path.kind}>
            {points.length > 1 && (
              <polyline
                className="reachable"
                points={points.map((spot) => spot.join(",")).join(" ")}
                strokeWidth={12 * px}
                onPointerDown={(event) => {
                  event.stopPropagation();
                  choose({ path: path.id, drops: new Set() });
                }}
              />
            )}
            <polyline className="line" points={points.map((spot) => spot.join(",")).join(" ")} />
            {path.to_floor_id != null && (
              <path
                className="step"
                d={`M${last[0] - 6 * px} ${last[1] + 5 * px}h${4 * px}v${-4 * px}h${4 * px}v${-4 * px}h${4 * px}`}
                onPointerDown={(event) => {
                  event.stopPropagation();
                  choose({ path: path.id, drops: new Set() });
                }}
              />
            )}
            {mine &&
              points.map((spot, corner) => (
                <circle
                  // biome-ignore lint/suspicious/noArrayIndexKey: a corner is known by its place
                  key={corner}
                  className="handle"
                  data-bend={corner}
                  cx={spot[0]}
                  cy={spot[1]}
                  r={5 * px}
                  onPointerDown={(event) => grab(event, path, corner)}
                  onPointerMove={bend}
                  onPointerUp={settle}
                />
              ))}
          </g>
        );
      })}
      {landing.map((path) => {
        const [x, y] = spots(path.points).at(-1) as Spot;
        return <circle key={`to-${path.id}`} className="landing" cx={x} cy={y} r={4.5 * px} />;
      })}
      {growing && growing.length > 0 && (
        <polyline className="growing" points={growing.map((spot) => spot.join(",")).join(" ")} />
      )}
    </Lines>
  );
}

const Lines = styled.g`
  .reachable { fill: none; stroke: transparent; cursor: pointer; }
  .line, .growing { fill: none; stroke: var(--moss); stroke-width: 3; vector-effect: non-scaling-stroke; opacity: 0.75; pointer-events: none; }
  .growing { stroke: var(--clay); stroke-dasharray: 6 4; opacity: 1; }
  [data-kind="conduit"] .line, [data-kind="buried"] .line, [data-kind="trunking"] .line, [data-kind="outside"] .line { stroke-dasharray: 9 3; }
  [data-kind="drilled"] .line, [data-kind="joist_bay"] .line, [data-kind="panelling"] .line { stroke-dasharray: 2 3; }
  [data-chosen] .line { stroke: var(--clay); opacity: 1; }
  .step { fill: none; stroke: var(--ink); stroke-width: 2.4; vector-effect: non-scaling-stroke; cursor: pointer; pointer-events: bounding-box; }
  [data-chosen] .step { stroke: var(--clay); }
  .landing { fill: var(--sheet); stroke: var(--ink); stroke-width: 2; vector-effect: non-scaling-stroke; pointer-events: none; }
`;
