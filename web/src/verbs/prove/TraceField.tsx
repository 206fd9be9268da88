import styled from "styled-components";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import type { Panel, TracedJack } from "./TracingView";

const w = words.tracing;
const share = (chance: number) => `${Math.round(chance * 100)} %`;

/** Jacks by positions: a block where a jack was found, the darker the more probable, blank where it does not end. */
export function TraceField(props: { panel: Panel; chosen: number | null; choose: (jack: number) => void }) {
  const { panel, chosen, choose } = props;
  const free = new Set(panel.free);
  const taken = new Set(panel.jacks.map((jack) => jack.position).filter((at) => at != null));
  const shown = panel.positions
    .map((name, place) => [name, place + 1] as const)
    .filter(([, at]) => free.has(at) || taken.has(at));
  return (
    <Scroll>
      <Field aria-label={w.field} style={{ minWidth: 340 + shown.length * 15 }}>
        <thead>
          <tr>
            <th>{w.jack}</th>
            <th>{w.ends}</th>
            {shown.map(([name, at]) => (
              <th key={at} data-taken={taken.has(at) || undefined}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {panel.jacks.map((jack) => (
            <tr
              key={jack.id}
              data-chosen={jack.id === chosen || undefined}
              data-settled={jack.state !== "open" || undefined}
            >
              <th scope="row">
                <button type="button" onClick={() => choose(jack.id)}>
                  {jack.name}
                </button>
              </th>
              <td>{said(jack, panel)}</td>
              {shown.map(([name, at]) => (
                <td key={at} {...mark(jack, at, taken)} title={w.cell(jack.name, name)} />
              ))}
            </tr>
          ))}
        </tbody>
      </Field>
    </Scroll>
  );
}

/** Where a jack ends, in words. */
export function said(jack: TracedJack, panel: Panel): string {
  if (jack.position != null) return w.at(panel.positions[jack.position - 1] ?? "");
  if (jack.state === "dead") return w.isDead;
  const best = jack.likely[0];
  return best && best.chance > 0.3 ? w.likely(panel.positions[best.position - 1] ?? "", share(best.chance)) : "";
}

/** How a cell is drawn: a block, a dot as large as it is probable, or nothing. */
function mark(jack: TracedJack, at: number, taken: ReadonlySet<number>) {
  if (jack.position === at) return { "data-mark": "found" };
  if (jack.state !== "open" || taken.has(at) || jack.ruled_out.includes(at)) return {};
  const chance = jack.likely.find((one) => one.position === at)?.chance ?? 0;
  return { "data-mark": "may", style: { "--size": `${3 + 9 * Math.sqrt(chance)}px` } as React.CSSProperties };
}

const Scroll = styled.div`
  overflow: auto; max-height: 62vh; border-top: 1px solid var(--ink);
`;
const Field = styled.table`
  border-collapse: collapse; table-layout: fixed; width: 100%;
  thead th { position: sticky; top: 0; background: var(--paper); font: 550 12px var(--data); color: var(--faint); padding: 3px 0; text-align: center; z-index: 1; }
  thead th:first-child, tbody th { width: 210px; text-align: left; }
  thead th:nth-child(2), tbody td:nth-child(2) { width: 74px; text-align: left; color: var(--faint); white-space: nowrap; }
  thead th[data-taken] { text-decoration: line-through; }
  tbody th { font-weight: 400; position: sticky; left: 0; background: var(--paper); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  tbody tr { border-bottom: 1px solid var(--rule); height: 23px; }
  td[data-mark] { position: relative; }
  td[data-mark]::after {
    content: ""; position: absolute; left: 50%; top: 50%; transform: translate(-50%, -50%); width: var(--size); height: var(--size);
    border-radius: 50%; background: var(--slate);
  }
  td[data-mark="found"]::after { width: 12px; height: 12px; border-radius: 0; background: var(--ink); }
  tr[data-settled] th button { color: var(--faint); }
  tr[data-chosen] > * { background: var(--earth); }
  button { all: unset; cursor: pointer; }
  button:focus-visible { outline: 2px solid var(--clay); }
  ${NARROW} { thead th:first-child, tbody th { width: 150px; } tbody tr { height: 34px; } }
`;
