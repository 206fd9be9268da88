import styled from "styled-components";
import type { CoverFor, Layout } from "../../api/client";
import { useWork } from "../../api/work";
import { type Spot, spots } from "../../instruments/plan/geometry";

/** What is one of the marks on the plan of Sight. */
export type Marked = { list: "targets" | "openings" | "plots"; id: number };

/** Openings in their walls, targets, the boundary, and what is being drawn. */
export function SightMarks(props: {
  cover: CoverFor;
  layout: Layout;
  floor: number;
  px: number;
  chosen: Marked | null;
  growing: readonly Spot[];
  asked: Spot | null;
  choose: (mark: Marked) => void;
}) {
  const { outcome } = useWork();
  const { px } = props;
  const { targets, plots, views } = outcome.project;
  const here = new Set(props.cover.views.filter((view) => view.floor_id === props.floor).map((view) => view.view_id));
  const met = new Map(props.cover.targets.map((target) => [target.id, target.met]));
  const is = (list: Marked["list"], id: number) => (props.chosen?.list === list && props.chosen.id === id) || undefined;
  const press = (mark: Marked) => ({
    onPointerDown: (event: { stopPropagation: () => void }) => {
      event.stopPropagation();
      props.choose(mark);
    },
  });
  const level = new Map(props.layout.storeys.map((storey) => [storey.id, storey.elevation_m]));
  const beside = props.layout.walls.filter(
    (wall) => wall.floor_id !== props.floor && level.get(wall.floor_id) === level.get(props.floor),
  );
  return (
    <>
      {beside.map(({ start: [x1, y1], end: [x2, y2] }) => (
        <Beside key={`${x1} ${y1} ${x2} ${y2}`} x1={x1} y1={y1} x2={x2} y2={y2} />
      ))}
      {(plots ?? []).map((plot) => (
        <Boundary
          key={plot.id}
          points={spots(plot.outline)
            .map((spot) => spot.join(","))
            .join(" ")}
          data-chosen={is("plots", plot.id)}
        />
      ))}
      {(views ?? [])
        .filter((view) => here.has(view.id))
        .flatMap((view) => (view.masks ?? []).map((mask, place) => ({ key: `${view.id} ${place}`, mask })))
        .map(({ key, mask }) => (
          <Mask
            key={key}
            points={spots(mask)
              .map((spot) => spot.join(","))
              .join(" ")}
          />
        ))}
      {props.layout.openings
        .filter((opening) => opening.floor_id === props.floor)
        .map((opening) => {
          const [[x1 = 0, y1 = 0], [x2 = 0, y2 = 0]] = [opening.start, opening.end];
          return (
            <Pressed
              key={opening.id}
              x1={x1}
              y1={y1}
              x2={x2}
              y2={y2}
              strokeWidth={10 * px}
              data-chosen={is("openings", opening.id)}
              {...press({ list: "openings", id: opening.id })}
            />
          );
        })}
      {(targets ?? [])
        .filter((target) => target.floor_id === props.floor)
        .map((target) => {
          const points = spots(target.points);
          const [x, y] = points[0] as Spot;
          const drawn = points.map((spot) => spot.join(",")).join(" ");
          const look = { "data-met": met.get(target.id) || undefined, "data-chosen": is("targets", target.id) };
          return (
            <g key={target.id} data-target={target.id} {...press({ list: "targets", id: target.id })}>
              <title>{target.name}</title>
              {target.shape === "spot" && (
                <TargetMark {...look} d={`M${x - 7 * px} ${y}h${14 * px}M${x} ${y - 7 * px}v${14 * px}`} />
              )}
              {target.shape === "line" && (
                <TargetMark {...look} d={`M${points.map((spot) => spot.join(" ")).join("L")}`} />
              )}
              {target.shape === "area" && <TargetArea {...look} points={drawn} />}
              <circle cx={x} cy={y} r={9 * px} fill="transparent" />
            </g>
          );
        })}
      {props.growing.length > 0 && (
        <>
          <Growing points={props.growing.map((spot) => spot.join(",")).join(" ")} />
          {props.growing.map(([x, y]) => (
            <circle key={`${x} ${y}`} cx={x} cy={y} r={4 * px} fill="var(--clay)" />
          ))}
        </>
      )}
      {props.asked && (
        <TargetMark
          data-chosen
          d={`M${props.asked[0] - 8 * px} ${props.asked[1] - 8 * px}l${16 * px} ${16 * px}m0 ${-16 * px}l${-16 * px} ${16 * px}`}
        />
      )}
    </>
  );
}

/** Ground that a picture blacks out. */
const Mask = styled.polygon`fill: var(--ink); opacity: 0.75; pointer-events: none;`;
/** Walls of other floors at the same height, which hide what is behind them too. */
const Beside = styled.line`stroke: var(--ink); stroke-width: 1.6; vector-effect: non-scaling-stroke; opacity: 0.45;`;
const Boundary = styled.polygon`
  fill: none; stroke: var(--moss); stroke-width: 2; stroke-dasharray: 12 4 2 4; vector-effect: non-scaling-stroke; pointer-events: none;
  &[data-chosen] { stroke: var(--clay); }
`;
const Pressed = styled.line`
  stroke: transparent; cursor: pointer;
  &[data-chosen] { stroke: var(--clay); opacity: 0.5; }
`;
const TargetMark = styled.path`
  fill: none; stroke: var(--clay); stroke-width: 2.4; vector-effect: non-scaling-stroke; stroke-dasharray: 3 2; cursor: pointer;
  &[data-met] { stroke: var(--moss); stroke-dasharray: none; }
  &[data-chosen] { stroke-width: 3.6; }
`;
const TargetArea = styled.polygon`
  fill: transparent; stroke: var(--clay); stroke-width: 2.4; vector-effect: non-scaling-stroke; stroke-dasharray: 3 2; cursor: pointer;
  &[data-met] { stroke: var(--moss); stroke-dasharray: none; }
  &[data-chosen] { stroke-width: 3.6; }
`;
const Growing = styled.polyline`
  fill: none; stroke: var(--clay); stroke-width: 2; stroke-dasharray: 6 4; vector-effect: non-scaling-stroke; pointer-events: none;
`;
