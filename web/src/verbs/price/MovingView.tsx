import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { SheetWord } from "../../instruments/SheetWord";
import { optionsOf } from "../../kit/Choice";
import { Amount, Text } from "../../kit/fields";
import { exact } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { Page } from "./ledger";
import { useMoving } from "./usePrice";

const w = words.moving;
type Moving = Schemas["MovingFor"];
type Used = Schemas["Used"];
type MoveStep = Schemas["MoveStep"];

/** From the network that is there to the new one: what each step interrupts, and the way back. */
export function MovingView() {
  const { id } = useWork();
  const moving = useMoving();
  if (!moving) return null;
  return (
    <Page>
      <div>
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            <span>{w.lead}</span>
          </Heading>
          {moving.steps.length > 0 && (
            <p className="acts">
              <SheetWord sheet="moving">{w.pdf}</SheetWord>
              <a href={`/api/projects/${id}/price/moving.csv`}>{words.price.csv}</a>
            </p>
          )}
          {moving.steps.length === 0 ? <p>{w.none}</p> : <p>{w.how}</p>}
          {moving.used.length > 0 && <Crossing moving={moving} />}
        </section>
        {moving.by_phase.map(({ phase, minutes }) => (
          <section key={phase} aria-label={phase || w.steps}>
            <Heading>
              <h2>{phase || w.steps}</h2>
              <span>{minutes > 0 ? w.added(exact(minutes)) : w.nothing}</span>
            </Heading>
            <Steps>
              {moving.steps.map((step, place) =>
                step.phase === phase ? <Step key={step.key} step={step} number={place + 1} used={moving.used} /> : null,
              )}
            </Steps>
          </section>
        ))}
      </div>
      <div>
        <Runs />
        <Findings verb="price" />
      </div>
    </Page>
  );
}

/** What runs, a line each: broken on the old ground, drawn out on the new, with a gap at every interruption. */
function Crossing({ moving }: { moving: Moving }) {
  const { used, steps } = moving;
  const x = (place: number) => ((place + 0.5) / steps.length) * 100;
  return (
    <Lines>
      <thead>
        <tr>
          <th>{w.what}</th>
          <th>
            <span>{w.old}</span>
            <span>{w.newer}</span>
          </th>
          <th className="r">{w.longest}</th>
          <th className="r">{w.allowed}</th>
        </tr>
      </thead>
      <tbody>
        {used.map((one) => {
          const at = steps.flatMap((step, place) =>
            step.down.some((down) => down.key === one.key) ? [{ place, name: step.name }] : [],
          );
          const [first, last] = [at[0]?.place, at.at(-1)?.place];
          return (
            <tr key={one.key} data-fails={(one.must_stay && !one.holds) || undefined}>
              <th scope="row">
                {one.name}
                {one.must_stay && <small>{w.stays}</small>}
              </th>
              <td>
                <svg role="img" aria-label={w.told(one.name, at.map((step) => step.name).join(", "))}>
                  <line className="old" x1="0" x2={first == null ? "100%" : `${x(first)}%`} y1="11" y2="11" />
                  {first != null && last != null && (
                    <>
                      <line className="way" x1={`${x(first)}%`} x2={`${x(last)}%`} y1="11" y2="11" />
                      <line className="new" x1={`${x(last)}%`} x2="100%" y1="11" y2="11" />
                    </>
                  )}
                  {at.map(({ place }) => (
                    <g key={place}>
                      <line className="gap" x1={`${x(place) - 0.7}%`} x2={`${x(place) + 0.7}%`} y1="11" y2="11" />
                      <text x={`${x(place)}%`} y="22">
                        {place + 1}
                      </text>
                    </g>
                  ))}
                </svg>
              </td>
              <td className="r">{one.longest_min > 0 ? w.min(exact(one.longest_min)) : w.untouched}</td>
              <td className="r">{allowed(one)}</td>
            </tr>
          );
        })}
      </tbody>
    </Lines>
  );
}

function allowed(one: Used): string {
  if (one.most_min != null) return w.min(exact(one.most_min));
  return one.must_stay && one.longest_min > 0 ? w.unsaid : "–";
}

function Step({ step, number, used }: { step: MoveStep; number: number; used: readonly Used[] }) {
  const { put } = useWork();
  const named = new Map(used.map((one) => [one.key, one.name]));
  const downs = step.down.map((one) => w.down(named.get(one.key) ?? "", exact(one.each_min), one.times));
  return (
    <li value={number} data-down={downs.length > 0 || undefined}>
      <b>{step.name}</b>
      <p>{step.told}</p>
      {downs.length > 0 && (
        <p className="down">
          {w.interrupts} {downs.join("; ")}.{" "}
          <span>
            {w.own}{" "}
            <Amount
              label={`${w.own}: ${step.name}`}
              value={step.own_min}
              usual={step.usual_min ?? undefined}
              most={10_000}
              set={(minutes) => put("move_terms", { step: step.key }, { minutes })}
            />{" "}
            min
          </span>
        </p>
      )}
      <p className="back">
        {w.back}{" "}
        <Text
          label={`${w.back} ${step.name}`}
          value={step.way_back}
          set={(way_back) => put("move_terms", { step: step.key }, { way_back })}
        />
      </p>
    </li>
  );
}

/** What people use on the network that is there. */
function Runs() {
  const { outcome } = useWork();
  return (
    <EntryList
      title={w.runs}
      lead={w.runsLead}
      list="running"
      rows={outcome.project.running ?? []}
      name={(row) => row.name}
      fields={[
        { key: "name", as: { type: "text", width: 22, strong: true } },
        { key: "kind", as: { type: "choice", options: optionsOf(w.kind) } },
        { key: "room_ids", before: w.rooms, as: { type: "rooms", none: w.everywhere } },
        { key: "must_stay", after: w.mustStay, as: { type: "tick", usual: () => true } },
        { key: "most_min", before: w.most, after: "min", as: { type: "number", width: 5, most: 10_000 } },
        { key: "when", before: w.when, as: { type: "text", width: 22 } },
        { key: "meanwhile", before: w.meanwhile, as: { type: "text", width: 22 } },
      ]}
      add={{
        label: w.add,
        options: optionsOf(w.kind),
        values: (kind) => ({ kind, name: w.kind[kind as keyof typeof w.kind] }),
      }}
    />
  );
}

const Lines = styled.table`
  width: 100%; table-layout: fixed; margin-top: 8px;
  th { text-align: left; font-weight: 400; padding: 2px 10px 2px 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  thead th { color: var(--faint); border-bottom: 1px solid var(--ink); font-weight: 550; }
  thead th:nth-child(2) { display: flex; justify-content: space-between; padding-right: 0; }
  th:first-child { width: 226px; } th:nth-child(3), th:nth-child(4) { width: 96px; }
  td, tbody th { border-bottom: 1px solid var(--rule); vertical-align: middle; }
  small { color: var(--faint); font-size: 12.5px; margin-left: 7px; }
  svg { display: block; width: 100%; height: 25px; overflow: visible; }
  line { stroke: var(--ink); }
  .old { stroke-dasharray: 2 4; stroke-width: 1.5; stroke: var(--faint); }
  .way { stroke-width: 1; } .new { stroke-width: 4; }
  .gap { stroke: var(--clay); stroke-width: 9; }
  text { font: 11px var(--data); text-anchor: middle; fill: var(--faint); dominant-baseline: middle; }
  .r { text-align: right; padding-left: 10px; }
  tr[data-fails] .r { color: var(--clay); }
  ${NARROW} { th:first-child { width: 130px; } th:nth-child(4), td:nth-child(4) { display: none; } th:nth-child(3) { width: 80px; } }
`;

const Steps = styled.ol`
  list-style: none; border-top: 1px solid var(--ink);
  > li { position: relative; padding: 7px 0 8px 46px; border-bottom: 1px solid var(--rule); }
  > li::before { content: attr(value); position: absolute; left: 0; width: 30px; text-align: right; font: 600 19px/1.1 var(--voice); color: var(--faint); }
  > li[data-down]::before { color: var(--clay); }
  b { font: 600 16px var(--voice); }
  p { max-width: 78ch; }
  .back { color: var(--faint); display: flex; gap: 5px; align-items: baseline; }
  .back input { flex: 1; width: auto; text-align: left; color: var(--faint); border-bottom-color: transparent; text-overflow: ellipsis; }
  .back input:hover, .back input:focus { border-bottom-color: var(--faint); color: var(--ink); }
  .down { color: var(--clay); } .down span { color: var(--faint); }
  input { width: 5ch; text-align: right; background: none; border: 0; border-bottom: 1px dotted var(--faint); border-radius: 0; padding: 0 1px; color: var(--ink); }
  ${NARROW} { > li { padding-left: 38px; } > li::before { width: 24px; } }
`;
