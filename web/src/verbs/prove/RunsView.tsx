import { useState } from "react";
import styled from "styled-components";
import type { Edit } from "../../api/client";
import { readTests } from "../../api/files";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { FromDevice } from "../../instruments/FromDevice";
import { SheetWord } from "../../instruments/SheetWord";
import { Chooser, optionsOf } from "../../kit/Choice";
import { exact } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { Stitches } from "./Stitches";
import { clock, Stamp, TestSheet } from "./TestSheet";
import { type RunTests, rate, useTests } from "./useTests";

const w = words.prove;
type Shown = keyof typeof w.show;

/** Every run with its last test; one of them written down. */
export function RunsView() {
  const tests = useTests();
  const [chosen, choose] = useState<number | null>(null);
  if (!tests) return null;
  const run = tests.runs.find((one) => one.drop_id === chosen);
  return (
    <Page>
      <div>
        <Runs tests={tests} chosen={chosen} choose={choose} />
      </div>
      <div data-open={run ? true : undefined}>
        {run ? <TestSheet run={run} /> : <p className="press">{w.press}</p>}
        <Findings verb="prove" />
      </div>
    </Page>
  );
}

function Runs(props: { tests: RunTests; chosen: number | null; choose: (drop: number) => void }) {
  const { id, outcome } = useWork();
  const { tests, chosen, choose } = props;
  const [shown, show] = useState<Shown>("all");
  const last = new Map((outcome.project.run_tests ?? []).map((test) => [test.id, test]));
  const runs = tests.runs.filter((run) => shown === "all" || run.verdict === shown);
  return (
    <section aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>{w.sum(tests.passed, tests.failed, tests.open)}</span>
      </Heading>
      <Door />
      <p className="acts">
        <Chooser label={w.shown} value={shown} options={optionsOf(w.show)} set={show} />
        <SheetWord sheet="tests" />
        <a href={`/api/projects/${id}/prove/tests.csv`}>{w.csv}</a>
        <a href={`/api/projects/${id}/prove/tests.xlsx`}>{w.xlsx}</a>
      </p>
      {tests.runs.length === 0 && <p>{w.none}</p>}
      <List aria-label={w.title}>
        <thead>
          <tr>
            <th>{w.head.run}</th>
            <th>{w.head.map}</th>
            <th className="r">{w.head.length}</th>
            <th className="r">{w.head.link}</th>
            <th className="r wide">{w.head.power}</th>
            <th>{w.show.all}</th>
          </tr>
        </thead>
        <tbody>
          {runs.map((run) => {
            const test = last.get(run.test_id ?? -1);
            return (
              <tr key={run.drop_id} data-chosen={run.drop_id === chosen || undefined}>
                <td>
                  <button type="button" onClick={() => choose(run.drop_id)}>
                    {run.label !== run.name && <b>{run.label}</b>} {run.name}
                  </button>
                </td>
                <td>
                  <Stitches pins={test?.pins} />
                </td>
                <td className="r">
                  {test?.length_m != null && exact(test.length_m)}{" "}
                  <small>{w.planned(exact(run.expected.length_m))}</small>
                </td>
                <td className="r">{test?.speed_mbit != null && rate(test.speed_mbit)}</td>
                <td className="r wide">
                  {test?.poe_v != null && `${exact(test.poe_v)} V`}
                  {run.expected.powered && test?.poe_v == null && <small>{exact(run.expected.watts)} W</small>}
                </td>
                <td>
                  <Stamp data-verdict={run.verdict}>{w.verdict[run.verdict]}</Stamp>
                </td>
              </tr>
            );
          })}
        </tbody>
      </List>
    </section>
  );
}

/** Where tests come from: a tester's file, or a simulated tester. */
function Door() {
  const { id, edit, say } = useWork();
  const take = async (told: Blob) => {
    const { edits, left_out } = await readTests(id, told, clock());
    const kept = edits.length === 0 || (await edit(...(edits as Edit[])));
    if (kept && left_out.length > 0) say(w.leftOut(left_out));
  };
  const start = () => new Date(Date.now() - 86_400_000).toISOString().slice(0, 16);
  return (
    <FromDevice
      words={w}
      address={(seed) => `/api/projects/${id}/prove/simulated-tester?seed=${seed}&start=${start()}`}
      take={take}
    />
  );
}

const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 372px; gap: 26px; padding: 10px 16px 20px;
  > div { display: grid; gap: 18px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  .acts { display: flex; gap: 4px 18px; flex-wrap: wrap; align-items: baseline; padding: 3px 0; }
  .press { color: var(--faint); }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); > div[data-open] { order: -1; } }
`;

const List = styled.table`
  width: 100%; table-layout: fixed;
  th { text-align: left; font-weight: 550; color: var(--faint); border-bottom: 1px solid var(--ink); padding: 2px 10px 2px 0; }
  th:nth-child(2) { width: 78px; } th:nth-child(3) { width: 116px; } th:nth-child(4) { width: 84px; } th:nth-child(5) { width: 70px; } th:nth-child(6) { width: 86px; font-size: 0; }
  td { border-bottom: 1px solid var(--rule); padding: 3px 10px 3px 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  td:last-child { overflow: visible; }
  .r { text-align: right; }
  small { color: var(--faint); font-size: 12.5px; }
  tr[data-chosen] td { background: var(--earth); }
  button { all: unset; cursor: pointer; max-width: 100%; overflow: hidden; text-overflow: ellipsis; vertical-align: bottom; }
  button:focus-visible { outline: 2px solid var(--clay); }
  ${NARROW} {
    .wide { display: none; } th:nth-child(3), th:nth-child(4), td:nth-child(3), td:nth-child(4) { display: none; }
    td { padding: 9px 8px 9px 0; }
  }
`;
