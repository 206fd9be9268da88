import { AxisBottom, AxisLeft } from "@visx/axis";
import { scaleLinear, scaleTime } from "@visx/scale";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { exact } from "../../kit/figures";
import { words } from "../../words";
import { Dots, Figure, Small } from "./plotted";

const w = words.acceptance;
const BOX = { width: 372, height: 170, top: 10, bottom: 24, left: 42, right: 22 };

/** Month and day, as the clock on the wall says them. */
const day = (at: Date) => [at.getMonth() + 1, at.getDate()].map((one) => String(one).padStart(2, "0")).join("-");

/** Speeds over weeks: a dot a test at a desk, a ring over Wi-Fi, the pass level as a line; the figures in the table below. */
export function SpeedPlot(props: { speeds: readonly Schemas["SpeedSeries"][]; wanted: number | null }) {
  const { speeds, wanted } = props;
  const times = speeds.flatMap((one) => one.at.map((at) => new Date(at).getTime()));
  const most = Math.max(wanted ?? 0, ...speeds.map((one) => one.high)) * 1.08;
  const x = scaleTime({
    domain: [Math.min(...times) - 43_200_000, Math.max(...times) + 43_200_000],
    range: [BOX.left, BOX.width - BOX.right],
  });
  const y = scaleLinear({ domain: [0, most], range: [BOX.height - BOX.bottom, BOX.top] });
  return (
    <Figure>
      <Dots viewBox={`0 0 ${BOX.width} ${BOX.height}`} aria-hidden="true">
        <AxisLeft
          scale={y}
          left={BOX.left}
          numTicks={4}
          hideAxisLine
          tickLength={3}
          tickFormat={(value) => exact(Number(value))}
        />
        <AxisBottom
          scale={x}
          top={BOX.height - BOX.bottom}
          numTicks={4}
          tickLength={3}
          tickFormat={(value) => day(value as Date)}
        />
        {wanted != null && (
          <line className="wanted" x1={BOX.left} x2={BOX.width - BOX.right} y1={y(wanted)} y2={y(wanted)} />
        )}
        {speeds.flatMap((one) =>
          one.at.map((at, place) => (
            <circle
              key={`${one.over_air} ${at}`}
              data-ring={one.over_air || undefined}
              cx={x(new Date(at))}
              cy={y(one.mbit[place] ?? 0)}
              r="2.6"
            />
          )),
        )}
      </Dots>
      <Hours aria-label={w.speeds}>
        <thead>
          <tr>
            <th>{w.mbit}</th>
            <th className="r">{w.low}</th>
            <th className="r">{w.middle}</th>
            <th className="r">{w.high}</th>
            <th>{w.byHour}</th>
          </tr>
        </thead>
        <tbody>
          {speeds.map((one) => (
            <tr key={String(one.over_air)}>
              <th scope="row">{one.over_air ? w.ring : w.dot}</th>
              <td className="r">{exact(one.low)}</td>
              <td className="r">{exact(one.middle)}</td>
              <td className="r">{exact(one.high)}</td>
              <td>
                {one.by_hour.map((part) => (
                  <span key={part.hours}>
                    {part.hours} <b>{exact(part.middle)}</b>
                  </span>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </Hours>
    </Figure>
  );
}

const Hours = styled(Small)`
  tbody th { color: var(--faint); white-space: nowrap; }
  td span { white-space: nowrap; margin-right: 10px; display: inline-block; } td b { font-weight: 600; }
`;
