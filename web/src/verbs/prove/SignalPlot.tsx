import { AxisBottom, AxisLeft } from "@visx/axis";
import { scaleLinear } from "@visx/scale";
import type { Schemas } from "../../api/client";
import { exact } from "../../kit/figures";
import { words } from "../../words";
import { Dots, Figure, Small } from "./plotted";

const w = words.acceptance;
const BOX = { width: 372, height: 210, top: 8, bottom: 36, left: 44, right: 10 };
type Spot = Schemas["WalkedSpot"];

/** The walk laid over the prediction: a dot a spot, on the line where it is as predicted; below the dashes it is too weak. */
export function SignalPlot(props: { spots: readonly Spot[]; wanted: number | null }) {
  const { spots, wanted } = props;
  const known = spots.filter((spot) => spot.predicted_dbm != null);
  const levels = known.flatMap((spot) => [spot.measured_dbm, spot.predicted_dbm ?? 0]);
  const domain = [
    Math.floor(Math.min(...levels, wanted ?? 0) / 5) * 5 - 2,
    Math.ceil(Math.max(...levels, wanted ?? -90) / 5) * 5 + 2,
  ];
  const x = scaleLinear({ domain, range: [BOX.left, BOX.width - BOX.right] });
  const y = scaleLinear({ domain, range: [BOX.height - BOX.bottom, BOX.top] });
  const walks = [...new Set(spots.map((spot) => spot.walk))];
  return (
    <Figure>
      {known.length > 0 && (
        <Dots viewBox={`0 0 ${BOX.width} ${BOX.height}`} aria-hidden="true">
          <AxisLeft
            scale={y}
            left={BOX.left}
            numTicks={5}
            tickLength={3}
            tickFormat={(value) => exact(Number(value))}
          />
          <AxisBottom
            scale={x}
            top={BOX.height - BOX.bottom}
            numTicks={6}
            tickLength={3}
            tickFormat={(value) => exact(Number(value))}
          />
          <text x={(BOX.left + BOX.width) / 2} y={BOX.height - 4} textAnchor="middle">
            {w.predicted}
          </text>
          <text transform={`translate(11 ${BOX.height / 2 - 10}) rotate(-90)`} textAnchor="middle">
            {w.heard}
          </text>
          <line
            className="same"
            x1={x(domain[0] ?? 0)}
            y1={y(domain[0] ?? 0)}
            x2={x(domain[1] ?? 0)}
            y2={y(domain[1] ?? 0)}
          />
          {wanted != null && (
            <line className="wanted" x1={BOX.left} x2={BOX.width - BOX.right} y1={y(wanted)} y2={y(wanted)} />
          )}
          {known.map((spot) => (
            <circle
              key={`${spot.walk} ${spot.floor_id} ${spot.x_m} ${spot.y_m}`}
              data-ring={spot.before || undefined}
              cx={x(spot.predicted_dbm ?? 0)}
              cy={y(spot.measured_dbm)}
              r="3"
            />
          ))}
        </Dots>
      )}
      <Small aria-label={w.walks}>
        <thead>
          <tr>
            <th>{w.walk}</th>
            <th className="r">{w.spots}</th>
            <th className="r">{w.weakest}</th>
            <th className="r">{w.off}</th>
          </tr>
        </thead>
        <tbody>
          {walks.map((walk) => {
            const some = spots.filter((spot) => spot.walk === walk);
            const errors = some.flatMap((spot) =>
              spot.predicted_dbm == null ? [] : [spot.measured_dbm - spot.predicted_dbm],
            );
            const mean = errors.reduce((sum, one) => sum + one, 0) / (errors.length || 1);
            return (
              <tr key={walk}>
                <th scope="row">
                  {some[0]?.before ? "○" : "●"} {walk}
                </th>
                <td className="r">{some.length}</td>
                <td className="r">{exact(Math.min(...some.map((spot) => spot.measured_dbm)))} dBm</td>
                <td className="r">{errors.length > 0 && `${exact(Math.round(mean * 10) / 10)} dB`}</td>
              </tr>
            );
          })}
        </tbody>
      </Small>
    </Figure>
  );
}
