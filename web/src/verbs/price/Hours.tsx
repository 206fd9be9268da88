import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import styled from "styled-components";
import { data, http, type JobPrice } from "../../api/client";
import { addTo, rowToPut } from "../../api/edits";
import { useWork } from "../../api/work";
import { Chooser } from "../../kit/Choice";
import { exact, figure, typedFigure } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { hours, Listed, type TaskKey } from "./ledger";

const w = words.labour;

/** Hours written down as the work goes: large enough for a thumb. */
export function Logbook({ costs }: { costs: JobPrice }) {
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
export function Measured({ costs }: { costs: JobPrice }) {
  const { put } = useWork();
  const { measured } = costs;
  if (!measured.tasks.length) return null;
  return (
    <Listed aria-label={w.measured}>
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
    </Listed>
  );
}

/** Hours of this house, from what was counted elsewhere. */
export function House() {
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
    <Listed aria-label={w.house}>
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
    </Listed>
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
