import type { JobPrice } from "../../api/client";
import { rowToPut } from "../../api/edits";
import { useWork } from "../../api/work";
import { Heading, Word } from "../../kit/parts";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { hours, Ledger, Listed, type TaskKey } from "./ledger";
import { useMoney } from "./usePrice";

const w = words.labour;

/** The owner's own work stage by stage beside having it done, and its tools. */
export function OwnWork({ costs }: { costs: JobPrice }) {
  const { outcome, edit, put } = useWork();
  const money = useMoney();
  const { own } = costs;
  const give = (tasks: readonly string[]) =>
    edit(...tasks.map((task) => rowToPut(outcome, "task_terms", { task: task as TaskKey }, { who: "owner" })));
  return (
    <section aria-label={w.own}>
      <Heading>
        <h2>{w.own}</h2>
      </Heading>
      {own.stages.length > 0 && (
        <p>
          {w.ownSum(money(own.all.total_minor), hours(own.all.hours), money(own.done_minor + own.given.total_minor))}
        </p>
      )}
      <Ledger aria-label={w.own}>
        <colgroup>
          <col />
          <col style={{ width: 104 }} />
          <col style={{ width: 74 }} />
          <col className="wide" style={{ width: 96 }} />
          <col style={{ width: 104 }} />
          <col style={{ width: 128 }} />
        </colgroup>
        <thead>
          <tr>
            <th>{w.ownHead.stage}</th>
            <th className="r">{w.ownHead.done}</th>
            <th className="r">{w.ownHead.hours}</th>
            <th className="r wide">{w.ownHead.tools}</th>
            <th className="r">{w.ownHead.saved}</th>
            <th className="r">{w.ownHead.give}</th>
          </tr>
        </thead>
        <tbody>
          {own.stages.map((one) => (
            <tr key={one.stage}>
              <td title={one.name}>{one.name}</td>
              <td className="r">{money(one.done_minor)}</td>
              <td className="r">{hours(one.own_hours)}</td>
              <td className="r wide">{one.more_tools_minor ? money(one.more_tools_minor) : "–"}</td>
              <td className="r" data-unknown={one.saved_minor < 0 || undefined}>
                {money(one.saved_minor)}
              </td>
              <td className="r">
                <Word aria-label={w.give(one.name)} onPress={() => give(one.tasks)}>
                  {w.giveShort}
                </Word>
              </td>
            </tr>
          ))}
        </tbody>
      </Ledger>
      {own.given.tools.length > 0 && (
        <Listed aria-label={w.tools}>
          <Heading>
            <h2>{w.tools}</h2>
            <span>{w.toolsLead}</span>
          </Heading>
          <ul>
            {own.given.tools.map((one) => (
              <li key={one.name}>
                <b>{one.name}</b>
                <span>{w.days(one.days)}</span>
                <span>{one.how === "there" ? w.how.there : `${w.how[one.how]}, ${money(one.cost_minor)}`}</span>
                <Tick
                  label={w.toolThere(one.name)}
                  value={one.how === "there"}
                  set={(there) => put("own_tools", { tool: one.name }, { there })}
                />
              </li>
            ))}
          </ul>
          {own.given.tools_minor > 0 && <p>{w.ownGiven(money(own.given.tools_minor))}</p>}
        </Listed>
      )}
    </section>
  );
}
