import { scaleLinear } from "@visx/scale";
import { Bar } from "@visx/shape";
import { exact } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { words } from "../../words";
import { usePrice } from "../price/usePrice";
import { Small } from "./plotted";

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
      <Small aria-label={w.hoursTitle}>
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
                <svg width={BOX.width} height={BOX.height} aria-hidden="true">
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
      </Small>
    </section>
  );
}
