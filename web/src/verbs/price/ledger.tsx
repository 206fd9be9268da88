import styled from "styled-components";
import type { SumBand } from "../../api/client";
import type { Row } from "../../api/edits";
import { exact } from "../../kit/figures";
import { NARROW } from "../../kit/theme";

/** A ledger: lines with figures at the right, a bracket around every group. */
export const Ledger = styled.table`
  width: 100%; table-layout: fixed;
  thead th { text-align: left; font-weight: 550; color: var(--faint); border-bottom: 1px solid var(--ink); padding: 2px 10px 2px 0; }
  tbody th { text-align: left; padding: 9px 0 1px 10px; font: 600 15px var(--voice); border-left: 2px solid var(--ink); }
  tbody th span { font: 13.5px var(--data); color: var(--faint); margin-left: 8px; }
  td { border-bottom: 1px solid var(--rule); padding: 2px 10px 2px 0; vertical-align: baseline; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  tbody td:first-child { border-left: 2px solid var(--ink); padding-left: 10px; }
  tbody tr:last-child td:first-child { background: linear-gradient(var(--ink), var(--ink)) left bottom / 9px 2px no-repeat; }
  thead th:first-child { padding-left: 12px; }
  input { background: none; border: 0; border-bottom: 1px dotted var(--faint); border-radius: 0; padding: 0 1px; width: 100%; text-align: right; }
  input::placeholder { color: var(--faint); opacity: 1; }
  [aria-invalid] { color: var(--clay); text-decoration: underline wavy; }
  .r { text-align: right; }
  button.open::first-letter, td:first-child::first-letter { text-transform: uppercase; }
  tr[data-choose] { cursor: pointer; }
  tr[data-choose]:hover td { background: var(--earth); }
  tr[data-chosen] td { background: var(--earth); }
  tr[data-chosen] td:first-child { border-left-color: var(--clay); }
  td[data-unknown] { color: var(--clay); }
  td small { color: var(--faint); font-size: 12.5px; }
  button.open { all: unset; cursor: pointer; display: inline-block; vertical-align: bottom; max-width: 100%; overflow: hidden; text-overflow: ellipsis; }
  button.open:focus-visible { outline: 2px solid var(--clay); }
  ${NARROW} { table-layout: auto; td { white-space: normal; } .wide { display: none; } }
`;

/** What something comes to, its sum at the right in the voice of the house. */
export const Sums = styled.dl`
  display: grid; grid-template-columns: minmax(0, 1fr) auto; align-items: baseline; border-top: 1px solid var(--ink); padding-top: 5px;
  dt, dd { padding: 1px 0; }
  dd { text-align: right; padding-left: 14px; }
  dt[data-whole], dd[data-whole] { font: 600 17px var(--voice); border-top: 1px solid var(--rule); padding-top: 4px; }
  dd[data-told] { grid-column: 1 / -1; text-align: left; padding-left: 0; color: var(--faint); }
  dd[data-told=over] { color: var(--clay); }
  dd[data-told=within] { color: var(--moss); }
`;

/** Two columns: what is listed, and what it comes to. */
export const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 306px; gap: 24px; padding: 10px 16px 20px;
  > div { display: grid; gap: 18px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  section > p { color: var(--faint); }
  .acts { display: flex; gap: 4px 16px; flex-wrap: wrap; padding: 3px 0; }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
`;

/** Lines of words and figures that wrap. */
export const Listed = styled.section`
  section > & { margin-top: 12px; }
  li { display: flex; flex-wrap: wrap; gap: 0 10px; border-bottom: 1px solid var(--rule); padding: 3px 0; align-items: baseline; color: var(--faint); }
  li b { font-weight: 550; color: var(--ink); flex: 1 1 160px; }
  em { font-style: normal; color: var(--moss); }
  em[data-over] { color: var(--clay); }
  > p { padding: 2px 0 4px; }
`;

export type TaskKey = Row<"worked">["task"];

/** Hours to a tenth. */
export const hours = (value: number) => exact(Math.round(value * 10) / 10);

const WIDTH = 268;
const HIGH = 7;

/** A sum that is uncertain: a line that is thick where it is likely and thin at its ends, with the budget as a stake. */
export function BandLine({ band, budget, told }: { band: SumBand; budget?: number | null; told: string }) {
  const { mean_minor: mean, sigma_minor: sigma } = band;
  const least = Math.min(mean - 3 * sigma, budget ?? mean) * 0.98;
  const most = Math.max(mean + 3 * sigma, budget ?? mean) * 1.02;
  const x = (minor: number) => (most > least ? ((minor - least) / (most - least)) * WIDTH : WIDTH / 2);
  const steps = Array.from({ length: 41 }, (_, n) => (n - 20) / 20);
  const high = (z: number) => HIGH * Math.exp(-0.5 * (3 * z) ** 2) + 0.4;
  const upper = steps.map((z) => `${x(mean + 3 * z * sigma)},${14 - high(z)}`);
  const lower = steps.toReversed().map((z) => `${x(mean + 3 * z * sigma)},${14 + high(z)}`);
  return (
    <svg width="100%" viewBox={`0 0 ${WIDTH} 30`} role="img" aria-label={told}>
      <polygon points={[...upper, ...lower].join(" ")} fill="var(--solid)" />
      <path d={`M${x(mean)} 2V26`} stroke="var(--ink)" />
      {budget != null && (
        <path
          d={`M${x(budget)} 0V30M${x(budget) - 4} 0h8`}
          stroke={budget < mean ? "var(--clay)" : "var(--moss)"}
          strokeWidth="2"
        />
      )}
    </svg>
  );
}
