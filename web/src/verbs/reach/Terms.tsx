import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { data, http } from "../../api/client";
import { useWork } from "../../api/work";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { lengthUnit, minorPerUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { words } from "../../words";

const w = words.cable;

/** Under what terms lengths and hours are told, and how cable is pulled. */
export function Terms() {
  const { outcome, edit } = useWork();
  const { settings } = outcome.project;
  const set = (changes: Partial<typeof settings>) => edit({ type: "change_settings", changes });
  return (
    <Sheet aria-label={w.terms}>
      <Heading>
        <h2>{w.terms}</h2>
      </Heading>
      <Line label={w.routeBy}>
        <Choice
          label={w.routeBy}
          value={settings.route_by}
          options={optionsOf(w.by)}
          set={(by) => set({ route_by: by as typeof settings.route_by })}
        />
      </Line>
      {(
        [
          ["closet_loop_m", w.closetLoop],
          ["jack_loop_m", w.jackLoop],
          ["ceiling_loop_m", w.ceilingLoop],
        ] as const
      ).map(([key, label]) => (
        <Line key={key} label={label}>
          <Amount label={label} value={settings[key]} metres most={20} set={(value) => set({ [key]: value ?? 0 })} />
          <i>{lengthUnit()}</i>
        </Line>
      ))}
      <Line label={w.hour}>
        <Amount
          label={w.hour}
          value={settings.hour_minor / minorPerUnit(settings.currency)}
          most={100_000}
          set={(value) => set({ hour_minor: Math.round((value ?? 0) * minorPerUnit(settings.currency)) })}
        />
        <i>{settings.currency}</i>
      </Line>
      <Line label={w.atMost}>
        <Amount
          label={`${w.atMost}: ${w.atMostWhy}`}
          value={settings.bundle_most}
          least={1}
          most={100}
          set={(value) => set({ bundle_most: value ?? 24 })}
        />
        <i>{w.atMostWhy}</i>
      </Line>
    </Sheet>
  );
}

/** Hours of one person by task: the usual ones, and those that the project has set. */
export function Labour() {
  const { outcome, edit, put } = useWork();
  const { task_rates: rates = [] } = outcome.project;
  const tasks = useQuery({ queryKey: ["tasks"], queryFn: () => data(http.GET("/api/tasks")), staleTime: Infinity });
  return (
    <Tasks aria-label={w.labour}>
      <Heading>
        <h2>{w.labour}</h2>
        <span>{w.labourLead}</span>
      </Heading>
      {tasks.data?.map((task) => {
        const own = rates.find((rate) => rate.task === task.key);
        const set = (hours: number | null) => {
          if (hours === null)
            return own ? edit({ type: "remove_entry", list: "task_rates", id: own.id }) : Promise.resolve(true);
          return put("task_rates", { task: task.key }, { hours });
        };
        return (
          <Task key={task.key}>
            <span>{task.name}</span>
            <Amount label={task.name} value={own?.hours ?? null} usual={task.hours} most={100} set={set} />
            <i>h</i>
          </Task>
        );
      })}
    </Tasks>
  );
}

const Tasks = styled.section`
  display: grid; grid-template-columns: minmax(0, 1fr);
`;

const Task = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 54px 10px; gap: 6px; align-items: baseline;
  border-bottom: 1px solid var(--rule); padding: 2px 0;
  input {
    background: none; border: 0; border-bottom: 1px dotted var(--faint); padding: 0 2px; width: 100%; min-width: 0;
    text-align: right;
  }
  input::placeholder { color: var(--faint); opacity: 1; }
  i { font-style: normal; color: var(--faint); }
`;
