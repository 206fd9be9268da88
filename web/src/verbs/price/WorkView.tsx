import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import styled from "styled-components";
import { data, http, type JobPrice } from "../../api/client";
import { addTo, type Row, rowToPut } from "../../api/edits";
import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { Choice, Chooser, optionsOf } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { exact, figure, minorPerUnit, typedFigure } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { Ledger, Page } from "./ledger";
import { useMoney, usePrice } from "./usePrice";

const w = words.labour;
type Stage = keyof typeof w.stage;
type TaskKey = Row<"worked">["task"];
const hours = (value: number) => exact(Math.round(value * 10) / 10);

/** Hours task by task with their spread, who does them, and what was worked. */
export function WorkView() {
  const { id } = useWork();
  const costs = usePrice();
  if (!costs) return null;
  return (
    <Page>
      <div>
        <Logbook costs={costs} />
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            <span>{w.sum(hours(costs.labour.hours.mean_h), hours(costs.labour.hours.sigma_h))}</span>
            <a href={`/api/projects/${id}/price/work.csv`}>{words.price.csv}</a>
          </Heading>
          <p>{w.howBand(exact(costs.labour.site_spread_percent))}</p>
          <Tasks costs={costs} />
        </section>
        <Own costs={costs} />
        <Extra />
      </div>
      <div>
        <Measured costs={costs} />
        <Rates costs={costs} />
        <House />
        <Findings verb="price" />
      </div>
    </Page>
  );
}

function Tasks({ costs }: { costs: JobPrice }) {
  const { put } = useWork();
  const money = useMoney();
  const { lines } = costs.labour;
  const stages = (Object.keys(w.stage) as Stage[]).filter((stage) => lines.some((one) => one.stage === stage));
  return (
    <Ledger aria-label={w.title}>
      <colgroup>
        <col />
        <col style={{ width: 84 }} />
        <col className="wide" style={{ width: 108 }} />
        <col style={{ width: 62 }} />
        <col style={{ width: 104 }} />
        <col style={{ width: 92 }} />
      </colgroup>
      <thead>
        <tr>
          <th>{w.head.task}</th>
          <th className="r">{w.head.count}</th>
          <th className="r wide">{w.head.band}</th>
          <th className="r">{w.head.mean}</th>
          <th>{w.head.who}</th>
          <th className="r">{w.head.cost}</th>
        </tr>
      </thead>
      {stages.map((stage) => {
        const some = lines.filter((one) => one.stage === stage);
        return (
          <tbody key={stage}>
            <tr>
              <th colSpan={6} scope="rowgroup">
                {w.stage[stage]}
                <span>{hours(some.reduce((sum, one) => sum + one.hours.mean_h, 0))} h</span>
              </th>
            </tr>
            {some.map((one) => (
              <tr key={one.key}>
                <td title={one.name}>{one.name}</td>
                <td className="r">
                  {figure(one.count)} <small>{one.unit}</small>
                </td>
                <td className="r wide">
                  <small>
                    {hours(one.hours.low_h)} – {hours(one.hours.high_h)}
                  </small>
                </td>
                <td className="r">{hours(one.hours.mean_h)}</td>
                <td>
                  {one.task ? (
                    <Choice
                      label={w.doneBy(one.name)}
                      value={one.who}
                      options={optionsOf(w.who)}
                      set={(who) => put("task_terms", { task: one.task as TaskKey }, { who })}
                    />
                  ) : (
                    w.who[one.who]
                  )}
                </td>
                <td className="r">{money(one.cost_minor)}</td>
              </tr>
            ))}
          </tbody>
        );
      })}
    </Ledger>
  );
}

/** Hours written down as the work goes: large enough for a thumb. */
function Logbook({ costs }: { costs: JobPrice }) {
  const { outcome, edit } = useWork();
  const tasks = costs.labour.lines.filter((one) => one.task).map((one) => [one.task as TaskKey, one.name] as const);
  const [task, setTask] = useState<TaskKey | null>(null);
  const [took, setTook] = useState("");
  const [count, setCount] = useState("");
  const [by, setBy] = useState(() => outcome.project.worked?.at(-1)?.by ?? "");
  const worked = outcome.project.worked ?? [];
  const names = new Map(tasks);
  const write = async (event: FormEvent) => {
    event.preventDefault();
    const [spent, done] = [typedFigure(took), count.trim() ? typedFigure(count) : null];
    if (!task || !(spent > 0)) return;
    const day = new Date().toISOString().slice(0, 10);
    if (await edit(addTo("worked", { task, hours: spent, count: done, day, by }))) {
      setTook("");
      setCount("");
    }
  };
  return (
    <Book aria-label={w.worked}>
      <Heading>
        <h2>{w.worked}</h2>
        <span>{w.workedLead}</span>
      </Heading>
      <form onSubmit={write}>
        <span>
          <i>{w.task}</i>
          <Chooser
            label={w.task}
            value={task}
            placeholder={w.chooseTask}
            options={tasks}
            set={(next) => setTask(next)}
          />
        </span>
        <label>
          <i>{w.hours}</i>
          <input inputMode="decimal" value={took} onChange={(event) => setTook(event.target.value)} />
        </label>
        <label>
          <i>{w.count}</i>
          <input inputMode="decimal" value={count} onChange={(event) => setCount(event.target.value)} />
        </label>
        <label>
          <i>{w.by}</i>
          <input value={by} maxLength={200} onChange={(event) => setBy(event.target.value)} />
        </label>
        <Word type="submit">{w.write}</Word>
      </form>
      {worked.length === 0 && <p>{w.noHours}</p>}
      <ul>
        {worked.toReversed().map((one) => (
          <li key={one.id}>
            <span>{one.day ?? ""}</span>
            <b>{names.get(one.task) ?? one.task.replaceAll("_", " ")}</b>
            <span>
              {exact(one.hours)} h{one.count != null && `, ${exact(one.count)}`}
            </span>
            <span>{one.by}</span>
            <button
              type="button"
              aria-label={w.remove}
              title={w.remove}
              onClick={() => edit({ type: "remove_entry", list: "worked", id: one.id })}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
    </Book>
  );
}

/** Task by task what was off, and the factor that it tells. */
function Measured({ costs }: { costs: JobPrice }) {
  const { put } = useWork();
  const { measured } = costs;
  if (!measured.tasks.length) return null;
  return (
    <Off aria-label={w.measured}>
      <Heading>
        <h2>{w.measured}</h2>
      </Heading>
      <p>
        {w.took(hours(measured.worked_h), hours(measured.done_h))}; {w.left(hours(measured.left_h))}
      </p>
      <ul>
        {measured.tasks.map((one) => {
          const off = one.done_h > 0 ? Math.round((one.counted_h / one.done_h - 1) * 100) : 0;
          return (
            <li key={one.task}>
              <b>{one.name}</b>
              <span>{w.doneOf(figure(one.done), figure(one.count))}</span>
              <em data-over={off > 0 || undefined}>{off === 0 ? w.exactly : w.off(String(Math.abs(off)), off > 0)}</em>
              <span>{w.factor(exact(Math.round(one.factor * 100) / 100))}</span>
              <Word
                onPress={() => put("task_rates", { task: one.task }, { hours: Math.round(one.rate_h * 10000) / 10000 })}
              >
                {w.useRate}
              </Word>
            </li>
          );
        })}
      </ul>
    </Off>
  );
}

/** The owner's own work stage by stage beside having it done, and its tools. */
function Own({ costs }: { costs: JobPrice }) {
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
        <Off aria-label={w.tools}>
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
        </Off>
      )}
    </section>
  );
}

function Rates({ costs }: { costs: JobPrice }) {
  const { outcome, edit } = useWork();
  const { settings } = outcome.project;
  const perUnit = minorPerUnit(costs.currency);
  const set = (changes: Partial<typeof settings>) => edit({ type: "change_settings", changes });
  const rate = (key: "hour_minor" | "electrician_minor" | "owner_minor", usual: number, label: string) => (
    <Line label={label}>
      <Amount
        label={label}
        value={(settings[key] ?? usual) / perUnit}
        set={(value) => set({ [key]: Math.round((value ?? usual / perUnit) * perUnit) })}
      />
      <i>{costs.currency}</i>
    </Line>
  );
  const share = (
    key: "owner_slower_percent" | "difficulty_percent" | "site_spread_percent",
    usual: number,
    label: string,
    unit: string,
  ) => (
    <Line label={label}>
      <Amount label={label} value={settings[key] ?? usual} set={(value) => set({ [key]: value ?? usual })} />
      <i>{unit}</i>
    </Line>
  );
  return (
    <section aria-label={w.rates}>
      <Heading>
        <h2>{w.rates}</h2>
      </Heading>
      <Sheet>
        {rate("hour_minor", 7500, w.hour)}
        {rate("electrician_minor", 8500, w.electrician)}
        {rate("owner_minor", 0, w.owner)}
        {share("owner_slower_percent", 150, w.slower, "% of the hours")}
        {share("difficulty_percent", 100, w.difficulty, "% of the hours")}
        {share("site_spread_percent", 10, w.spread, "% either way")}
      </Sheet>
    </section>
  );
}

/** Work that follows from no drop. */
function Extra() {
  const { outcome } = useWork();
  const rooms = outcome.project.rooms.map((one) => [String(one.id), one.name] as const);
  return (
    <EntryList
      title={w.extra}
      lead={w.extraLead}
      list="extra_work"
      rows={outcome.project.extra_work ?? []}
      name={(row) => row.name || row.task || ""}
      fields={[
        { key: "name", as: { type: "text", width: 24, strong: true }, when: (row) => row.task == null },
        {
          key: "task",
          when: (row) => row.task != null,
          as: { type: "choice", options: optionsOf(w.beside) },
        },
        { key: "count", as: { type: "number" } },
        { key: "who", as: { type: "choice", options: [["", "–"], ...optionsOf(w.who)] } },
        { key: "room_id", before: "in", as: { type: "choice", numeric: true, options: [["", "–"], ...rooms] } },
      ]}
      units={(row) => (row.task ? "" : "h")}
      add={{ placeholder: w.addExtra, values: (name) => ({ name, count: 1 }) }}
    >
      <TaskBeside />
    </EntryList>
  );
}

function TaskBeside() {
  const { edit } = useWork();
  return (
    <Chooser
      label={w.addTask}
      value={null}
      placeholder={w.addTask}
      options={optionsOf(w.beside)}
      set={(task) => edit(addTo("extra_work", { task: task as TaskKey, count: 1 }))}
    />
  );
}

/** Hours of this house, from what was counted elsewhere. */
function House() {
  const { id, outcome, edit } = useWork();
  const house = useQuery({
    queryKey: ["house-rates", id, outcome.revision],
    queryFn: ({ signal }) =>
      data(http.GET("/api/projects/{project_id}/price/house-rates", { params: { path: { project_id: id } }, signal })),
  }).data;
  if (!house) return null;
  const adopt = () =>
    edit(...house.rates.map((one) => rowToPut(outcome, "task_rates", { task: one.task }, { hours: one.rate_h })));
  return (
    <Off aria-label={w.house}>
      <Heading>
        <h2>{w.house}</h2>
        <span>{house.projects > 0 && w.houseLead(house.projects)}</span>
      </Heading>
      {house.rates.length === 0 && <p>{w.houseNone}</p>}
      <ul>
        {house.rates.map((one) => (
          <li key={one.task}>
            <b>{one.name}</b>
            <span>{w.factor(exact(Math.round(one.factor * 100) / 100))}</span>
            <span>{hours(one.measured_h)} h</span>
          </li>
        ))}
      </ul>
      {house.rates.length > 0 && <Word onPress={adopt}>{w.houseUse}</Word>}
    </Off>
  );
}

const Book = styled.section`
  form { display: flex; gap: 6px 18px; align-items: end; flex-wrap: wrap; padding: 4px 0 6px; border-bottom: 1px solid var(--ink); }
  form > span, form label { display: grid; gap: 1px; }
  form i { font-style: normal; color: var(--faint); font-size: 12.5px; }
  input { background: none; border: 0; border-bottom: 1px solid var(--faint); border-radius: 0; width: 8ch; padding: 2px 1px; }
  label:last-of-type input { width: 14ch; }
  li { display: grid; grid-template-columns: 84px minmax(0, 1fr) 108px 100px 20px; gap: 10px; border-bottom: 1px solid var(--rule); padding: 2px 0; align-items: baseline; }
  li b { font-weight: 600; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  li span:nth-of-type(2) { text-align: right; }
  ul { max-height: 190px; overflow: auto; }
  li button { background: none; border: 0; color: var(--clay); cursor: pointer; padding: 0 4px; }
  ${NARROW} {
    form { display: grid; grid-template-columns: 1fr 1fr; }
    form > span, form > label:last-of-type { grid-column: 1 / -1; }
    input { width: 100%; font-size: 17px; padding: 8px 1px; }
    label:last-of-type input { width: 100%; }
    form button { font-size: 17px; padding: 10px 0; }
    li { grid-template-columns: 78px minmax(0, 1fr) auto 20px; } li > span:nth-of-type(3) { display: none; }
    ul { max-height: none; }
  }
`;

const Off = styled.section`
  section > & { margin-top: 12px; }
  li { display: flex; flex-wrap: wrap; gap: 0 10px; border-bottom: 1px solid var(--rule); padding: 3px 0; align-items: baseline; color: var(--faint); }
  li b { font-weight: 550; color: var(--ink); flex: 1 1 160px; }
  em { font-style: normal; color: var(--moss); }
  em[data-over] { color: var(--clay); }
  > p { padding: 2px 0 4px; }
`;
