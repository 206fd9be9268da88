import type { JobPrice } from "../../api/client";
import { addTo } from "../../api/edits";
import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { Choice, Chooser, optionsOf } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { exact, figure, minorPerUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { words } from "../../words";
import { House, Logbook, Measured } from "./Hours";
import { hours, Ledger, Page, type TaskKey } from "./ledger";
import { OwnWork } from "./OwnWork";
import { useMoney, usePrice } from "./usePrice";

const w = words.labour;
type Stage = keyof typeof w.stage;

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
        <OwnWork costs={costs} />
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
