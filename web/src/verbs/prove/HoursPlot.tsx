import { scaleLinear } from "@visx/scale";
import { Bar } from "@visx/shape";
import styled from "styled-components";
import { exact } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { words } from "../../words";
import { usePrice } from "../price/usePrice";

const w = words.order;
const BOX = { width: 120, height: 16 };
const tenth = (hours: number) => exact(Math.round(hours * 10) / 10);

/** Hours estimated beside those worked, task by task, of what was counted: a pale bar over a dark one. */
export function HoursPlot() {
  const measured = usePrice()?.measured;
  if (!measured) return null;
  const tasks = measured.tasks.filter((one) => one.done_h > 0);
  if (tasks.length === 0) return <p className="press">{w.hoursNone}</p>;
  const most = Math.max(...tasks.flatMap((one) => [one.done_h, one.counted_h]));
  const x = scaleLinear({ domain: [0, most], range: [0, BOX.width] });
  return (
    <section aria-label={w.hoursTitle}>
      <Heading>
        <h2>{w.hoursTitle}</h2>
        <span>{w.hoursLead(exact(Math.round((measured.counted_h / measured.done_h) * 100) / 100))}</span>
      </Heading>
      <Figures aria-label={w.hoursTitle}>
        <thead>
          <tr>
            <th colSpan={2}>{w.task}</th>
            <th className="r">{w.estimated}</th>
            <th className="r">{w.worked}</th>
          </tr>
        </thead>
        <tbody>
          {tasks.map((one) => (
            <tr key={one.task}>
              <th scope="row">{one.name}</th>
              <td>
                <svg viewBox={`0 0 ${BOX.width} ${BOX.height}`} aria-hidden="true">
                  <Bar className="planned" x={0} y={2} width={x(one.done_h)} height={6} />
                  <Bar
                    className={one.counted_h > one.done_h ? "over" : "worked"}
                    x={0}
                    y={8}
                    width={x(one.counted_h)}
                    height={6}
                  />
                </svg>
              </td>
              <td className="r">{tenth(one.done_h)} h</td>
              <td className="r">{tenth(one.counted_h)} h</td>
            </tr>
          ))}
        </tbody>
      </Figures>
    </section>
  );
}

const Figures = styled.table`
  width: 100%; font-size: 12.5px;
  th { text-align: left; font-weight: 450; padding: 3px 8px 3px 0; } thead th { color: var(--faint); }
  .r { text-align: right; white-space: nowrap; } td { padding: 3px 0 3px 8px; }
  svg { width: 120px; height: 16px; display: block; }
  .planned { fill: var(--earth); stroke: var(--faint); stroke-width: 0.6; } .worked { fill: var(--solid); } .over { fill: var(--clay); }
  tbody tr { border-top: 1px solid var(--rule); }
`;
