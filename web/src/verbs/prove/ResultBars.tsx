import { scaleLinear } from "@visx/scale";
import { Bar, Line } from "@visx/shape";
import type { Row } from "../../api/edits";
import { words } from "../../words";
import { type Checked, measured } from "./AcceptanceView";
import { Small } from "./plotted";

const w = words.acceptance;
const BAR = { width: 150, height: 14 };
const SHOWN = 6;

/** What a drill or a reading showed beside what the plan expects, each as a bar up to the pass level. */
export function ResultBars({ one, rows }: { one: Checked; rows: readonly Row<"acceptance">[] }) {
  const { check } = one;
  const results = rows.filter((row) => row.value != null).slice(-SHOWN);
  const figures = [
    ...(check.planned != null ? [{ key: "planned", name: w.expected, value: check.planned, kind: "planned" }] : []),
    ...results.map((row) => ({
      key: String(row.id),
      name: `${(row.at ?? "").slice(0, 10)}${row.before ? ` ${w.before}` : ""}`,
      value: row.value ?? 0,
      kind: row.before ? "before" : "after",
    })),
  ];
  if (results.length === 0) return null;
  const wanted = check.wanted ?? null;
  const x = scaleLinear({
    domain: [0, Math.max(wanted ?? 0, ...figures.map((bar) => bar.value)) * 1.05 || 1],
    range: [0, BAR.width],
  });
  return (
    <Small aria-label={w.beside}>
      <tbody>
        {figures.map((bar) => (
          <tr key={bar.key}>
            <th scope="row">{bar.name}</th>
            <td>
              <svg width={BAR.width} height={BAR.height} aria-hidden="true">
                <Bar className={bar.kind} x={0} y={3} width={Math.max(0, x(bar.value))} height={8} />
                {wanted != null && (
                  <Line className="wanted" from={{ x: x(wanted), y: 0 }} to={{ x: x(wanted), y: BAR.height }} />
                )}
              </svg>
            </td>
            <td className="r">{measured(bar.value, check.unit)}</td>
          </tr>
        ))}
      </tbody>
    </Small>
  );
}
