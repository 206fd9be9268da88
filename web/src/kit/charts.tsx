import { AxisBottom } from "@visx/axis";
import { scaleBand, scaleLinear } from "@visx/scale";
import { Bar, Line, LinePath } from "@visx/shape";
import styled from "styled-components";

/** What stands on a capacity at one place of the ruler: today's, and all of it. */
export interface Standing {
  at: string;
  today: number;
  all: number;
}

const BARS = { width: 190, height: 92, top: 16, bottom: 18, left: 2, right: 34 };

/**
 * Bars against a limit: solid stands today, hatched comes by growth, what is over the limit breaks out above it.
 * The figures are in the table beside it.
 */
export function BarsUnderLimit(props: {
  title: string;
  unit: string;
  bars: readonly Standing[];
  limit: number;
  written: (value: number) => string;
  /** Places that are written under the ruler. */
  marks: readonly string[];
}) {
  const { bars, limit, written } = props;
  const most = Math.max(limit, ...bars.map((bar) => bar.all)) * 1.04 || 1;
  const x = scaleBand({
    domain: bars.map((bar) => bar.at),
    range: [BARS.left, BARS.width - BARS.right],
    padding: 0.22,
  });
  const y = scaleLinear({ domain: [0, most], range: [BARS.height - BARS.bottom, BARS.top] });
  const floor = y(0);
  return (
    <Drawing viewBox={`0 0 ${BARS.width} ${BARS.height}`} aria-hidden="true">
      <text className="title" x={BARS.left} y={10}>
        {props.title}
      </text>
      {bars.map((bar) => {
        const left = x(bar.at);
        const within = Math.min(bar.all, limit);
        const solid = Math.min(bar.today, within);
        return (
          <g key={bar.at}>
            <Bar className="solid" x={left} width={x.bandwidth()} y={y(solid)} height={floor - y(solid)} />
            {within > solid && (
              <Bar className="grown" x={left} width={x.bandwidth()} y={y(within)} height={y(solid) - y(within)} />
            )}
            {bar.all > limit && (
              <Bar className="over" x={left} width={x.bandwidth()} y={y(bar.all)} height={y(limit) - y(bar.all)} />
            )}
          </g>
        );
      })}
      <Line className="limit" from={{ x: BARS.left, y: y(limit) }} to={{ x: BARS.width - BARS.right, y: y(limit) }} />
      <text x={BARS.width - BARS.right + 4} y={y(limit) + 4}>
        {written(limit)} {props.unit}
      </text>
      <Ruler top={floor} scale={x} marks={props.marks} />
    </Drawing>
  );
}

/** What is given step by step, of a budget; steps that are refused stand over it. */
export function StepsOfBudget(props: {
  budget: number;
  steps: readonly { given: number; refused: number }[];
  written: (value: number) => string;
}) {
  const { steps, budget } = props;
  const width = 560;
  const [left, right, top, height, bottom] = [2, 54, 8, 84, 16];
  const most = Math.max(budget, ...steps.map((step) => step.given + step.refused)) * 1.04 || 1;
  const x = scaleBand({ domain: steps.map((_, place) => String(place + 1)), range: [left, width - right], padding: 0 });
  const y = scaleLinear({ domain: [0, most], range: [height - bottom, top] });
  const corners = steps.flatMap((step, place) => {
    const from = x(String(place + 1)) ?? 0;
    const before = steps[place - 1]?.given ?? 0;
    return [
      [from, y(before)],
      [from, y(step.given)],
      [from + x.bandwidth(), y(step.given)],
    ] as const;
  });
  return (
    <Drawing viewBox={`0 0 ${width} ${height}`} aria-hidden="true" data-wide>
      {steps.map((step, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a step is its place in the order
        <g key={place}>
          <Bar
            className="solid"
            x={x(String(place + 1))}
            width={x.bandwidth()}
            y={y(step.given)}
            height={y(0) - y(step.given)}
          />
          {step.refused > 0 && (
            <Bar
              className="refused"
              x={(x(String(place + 1)) ?? 0) + 1}
              width={Math.max(1, x.bandwidth() - 2)}
              y={y(step.given + step.refused)}
              height={y(step.given) - y(step.given + step.refused)}
            />
          )}
        </g>
      ))}
      <LinePath className="edge" data={corners} x={([at]) => at} y={([, at]) => at} />
      <Line className="limit" from={{ x: left, y: y(budget) }} to={{ x: width - right, y: y(budget) }} />
      <text x={width - right + 4} y={y(budget) + 4}>
        {props.written(budget)} W
      </text>
      <Ruler top={y(0)} scale={x} marks={["1", String(steps.length)]} />
    </Drawing>
  );
}

function Ruler(props: { top: number; scale: ReturnType<typeof scaleBand<string>>; marks: readonly string[] }) {
  return (
    <AxisBottom
      top={props.top}
      scale={props.scale}
      tickValues={[...props.marks]}
      tickLength={3}
      stroke="var(--ink)"
      tickStroke="var(--ink)"
      tickLabelProps={{
        fill: "var(--faint)",
        fontSize: 11.5,
        fontFamily: "var(--data)",
        textAnchor: "middle",
        dy: "-0.2em",
      }}
    />
  );
}

const Drawing = styled.svg`
  display: block; width: 100%; max-width: 230px; height: auto; font-family: var(--data); font-size: 11.5px; overflow: visible;
  &[data-wide] { max-width: 600px; }
  text { fill: var(--faint); font-variant-numeric: tabular-nums; }
  .title { fill: var(--ink); font-weight: 600; }
  .solid { fill: var(--solid); }
  .grown { fill: url(#hatching); stroke: var(--ink); stroke-width: 0.6; }
  .over { fill: var(--clay); }
  .refused { fill: url(#hatching-power); stroke: var(--clay); stroke-width: 0.8; }
  .limit { stroke: var(--ink); stroke-width: 1.4; }
  .edge { fill: none; stroke: var(--ink); stroke-width: 1; }
`;
