import { useState } from "react";
import styled from "styled-components";
import { data, http, type Schemas } from "../../api/client";
import { addTo } from "../../api/edits";
import { useOfRevision, useWork } from "../../api/work";
import { SheetWord } from "../../instruments/SheetWord";
import { AddByName } from "../../kit/AddByName";
import { exact } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { CheckSheet } from "./CheckSheet";
import { clock, Stamp } from "./TestSheet";

const w = words.acceptance;
export type Acceptance = Schemas["AcceptanceFor"];
export type Checked = Schemas["Checked"];
const LISTS = Object.keys(w.lists) as (keyof typeof w.lists)[];
const GROUPS = Object.keys(w.groups) as (keyof typeof w.groups)[];

/** A figure with its unit; nothing where nobody knows it. */
export const measured = (value: number | null | undefined, unit: string) =>
  value == null ? "" : `${exact(value)} ${unit}`;

/** What was promised, each stamped as it was tested. */
export function AcceptanceView() {
  const { id } = useWork();
  const [chosen, choose] = useState<string | null>(null);
  const told = useOfRevision("acceptance", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/prove/acceptance", { params: { path }, signal })),
  );
  if (!told) return null;
  const one = told.checks.find(({ check, verdict }) => (chosen ? check.key === chosen : verdict === "failed"));
  return (
    <Page>
      <div>
        <Heading>
          <h2>{w.title}</h2>
          <span>{w.sum(told.passed, told.failed, told.open)}</span>
        </Heading>
        <p className="acts">
          <SheetWord sheet="acceptance">{w.pdf}</SheetWord>
          {LISTS.map((name) => (
            <span key={name}>
              {w.lists[name]}
              {(["csv", "xlsx"] as const).map((kind) => (
                <a
                  key={kind}
                  href={`/api/projects/${id}/prove/${name}.${kind}`}
                  aria-label={`${w.lists[name]}, ${words.prove[kind]}`}
                >
                  {words.prove[kind]}
                </a>
              ))}
            </span>
          ))}
        </p>
        {GROUPS.map((group) => {
          const some = told.checks.filter(({ check }) => check.group === group);
          return (
            some.length > 0 && (
              <Group key={group} name={w.groups[group]} some={some} chosen={one?.check.key} choose={choose} />
            )
          );
        })}
      </div>
      <div data-open={chosen ? true : undefined}>
        {one ? <CheckSheet key={one.check.key} one={one} told={told} /> : <p className="press">{w.press}</p>}
        <Signed told={told} />
      </div>
    </Page>
  );
}

function Group(props: {
  name: string;
  some: readonly Checked[];
  chosen: string | undefined;
  choose: (key: string) => void;
}) {
  const figures = props.some.some(({ check }) => check.unit !== "");
  return (
    <List aria-label={props.name}>
      <thead>
        <tr>
          <th>{props.name}</th>
          {figures && <th className="r">{w.wanted}</th>}
          {figures && <th className="r wide">{w.before}</th>}
          {figures && <th className="r">{w.after}</th>}
          <th className="verdict">{w.stamp}</th>
        </tr>
      </thead>
      <tbody>
        {props.some.map(({ check, before, after, verdict }) => (
          <tr key={check.key} data-chosen={check.key === props.chosen || undefined}>
            <td>
              <button type="button" onClick={() => props.choose(check.key)}>
                {check.name}
              </button>
            </td>
            {figures && <td className="r">{measured(check.wanted, check.unit)}</td>}
            {figures && <td className="r wide">{measured(before, check.unit)}</td>}
            {figures && <td className="r">{measured(after, check.unit)}</td>}
            <td>
              <Stamp data-verdict={verdict}>{w.verdict[verdict]}</Stamp>
            </td>
          </tr>
        ))}
      </tbody>
    </List>
  );
}

/** Who accepted what, as it was then. */
function Signed({ told }: { told: Acceptance }) {
  const { outcome, edit } = useWork();
  const { passed, failed, open } = told;
  return (
    <section aria-label={w.signed}>
      <Heading>
        <h2>{w.signed}</h2>
      </Heading>
      <Names>
        {(outcome.project.sign_offs ?? []).map((row) => (
          <li key={row.id}>
            <b>{row.name}</b>
            <span>
              {(row.at ?? "").slice(0, 10)} · {w.sum(row.passed ?? 0, row.failed ?? 0, row.open ?? 0)}
            </span>
            <button
              type="button"
              aria-label={w.removeSigned(row.name)}
              onClick={() => edit({ type: "remove_entry", list: "sign_offs", id: row.id })}
            >
              ×
            </button>
          </li>
        ))}
      </Names>
      <AddByName label={w.sign} add={(name) => edit(addTo("sign_offs", { name, at: clock(), passed, failed, open }))} />
    </section>
  );
}

const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 372px; gap: 26px; padding: 10px 16px 20px;
  > div { display: grid; gap: 16px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  .acts { display: flex; gap: 4px 18px; flex-wrap: wrap; align-items: baseline; }
  .acts span { display: inline-flex; gap: 8px; color: var(--faint); }
  .press { color: var(--faint); }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); > div[data-open] { order: -1; } }
`;
const List = styled.table`
  width: 100%; table-layout: fixed;
  th { text-align: left; font-weight: 600; border-bottom: 1px solid var(--ink); padding: 2px 10px 2px 0; }
  th.r { font-weight: 550; color: var(--faint); }
  th.r, td.r { width: 96px; } th.verdict { width: 86px; font-size: 0; }
  td { border-bottom: 1px solid var(--rule); padding: 4px 10px 4px 0; }
  td:first-child { font: 16px/1.3 var(--voice); }
  .r { text-align: right; white-space: nowrap; }
  tr[data-chosen] td { background: var(--earth); }
  button { all: unset; cursor: pointer; }
  button:focus-visible { outline: 2px solid var(--clay); }
  ${NARROW} { .wide { display: none; } th.r, td.r { width: 74px; } td { padding: 10px 6px 10px 0; } }
`;
const Names = styled.ul`
  li { display: grid; grid-template-columns: auto minmax(0, 1fr) 20px; gap: 10px; align-items: baseline; border-bottom: 1px solid var(--rule); padding: 3px 0; }
  span { color: var(--faint); } button { background: none; border: 0; color: var(--clay); cursor: pointer; }
`;
