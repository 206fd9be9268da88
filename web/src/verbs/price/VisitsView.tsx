import styled from "styled-components";
import type { Visits } from "../../api/client";
import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { Searching } from "../../instruments/Searching";
import { optionsOf } from "../../kit/Choice";
import { Amount, Day, Text } from "../../kit/fields";
import { exact } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { Page } from "./ledger";
import { useVisits } from "./usePrice";

const w = words.visits;
const STAGES = optionsOf(words.labour.stage);

/** The work in as few days as there can be: who comes, does what where, takes what along. */
export function VisitsView() {
  const { id } = useWork();
  const { found, underway, isOld, stop, again } = useVisits();
  const visits = found?.reply;
  return (
    <Page>
      <div>
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            {visits && <span>{w.sum(visits.days, visits.proven, visits.bound)}</span>}
          </Heading>
          <Searching underway={underway} told={w.searching} stop={stop} again={again} />
          {visits && (
            <>
              <p>
                {w.idle(exact(visits.idle_h), exact(visits.travel_h))}
                {visits.ends ? `, ${w.ends(visits.ends)}.` : `. ${w.noDate}`}
              </p>
              <p className="acts">
                {visits.ends && <a href={`/api/projects/${id}/price/visits.ics`}>{w.ics}</a>}
                <a href={`/api/projects/${id}/price/visits.csv`}>{w.csv}</a>
              </p>
              <Days visits={visits} old={isOld} />
            </>
          )}
        </section>
      </div>
      <div>
        <Terms />
        <Crews />
        <Waits />
        <Orders />
        <Findings verb="price" />
      </div>
    </Page>
  );
}

function Days({ visits, old }: { visits: Visits; old: boolean }) {
  return (
    <List data-old={old || undefined}>
      {visits.visits.map((visit) => (
        <li key={`${visit.day} ${visit.crew}`}>
          <h3>
            {w.day(visit.day)}
            {visit.date && <time>{visit.date}</time>}
            <span>{visit.crew}</span>
          </h3>
          <div>
            <ul>
              {visit.jobs.map((job) => (
                <li key={`${job.name} ${job.place}`}>
                  <b>{job.name}</b> {job.place} <i>{exact(job.hours)} h</i>
                </li>
              ))}
            </ul>
            <small>{w.hours(exact(visit.hours), exact(visit.idle_h))}</small>
            {visit.rooms.length > 0 && (
              <p>
                <i>{w.rooms}</i> {visit.rooms.join(", ")}
              </p>
            )}
            {visit.let_in_by.length > 0 && (
              <p>
                <i>{w.letIn}</i> {visit.let_in_by.join(", ")}
              </p>
            )}
            {visit.tools.length > 0 && (
              <p>
                <i>{w.tools}</i> {visit.tools.join(", ")}
              </p>
            )}
            {visit.bring.length > 0 && (
              <details>
                <summary>
                  {w.bring}: {visit.bring.length}
                </summary>
                {visit.bring.join(", ")}
              </details>
            )}
          </div>
        </li>
      ))}
    </List>
  );
}

function Terms() {
  const { outcome, edit } = useWork();
  const { settings, rooms } = outcome.project;
  const set = (changes: Partial<typeof settings>) => edit({ type: "change_settings", changes });
  return (
    <Sheet aria-label={w.first}>
      <Line label={w.first}>
        <Day label={w.first} value={settings.first_day ?? null} set={(first_day) => set({ first_day })} />
      </Line>
      <Line label={w.dayH}>
        <Amount label={w.dayH} value={settings.day_h ?? 8} most={16} set={(value) => set({ day_h: value ?? 8 })} />
        <i>h</i>
      </Line>
      <Line label={w.travel}>
        <Amount
          label={w.travel}
          value={settings.travel_h ?? 0.75}
          most={12}
          set={(value) => set({ travel_h: value ?? 0 })}
        />
        <i>h</i>
      </Line>
      <details>
        <summary>{w.letInRooms}</summary>
        {rooms.map((room) => (
          <Line key={room.id} label={room.name}>
            <Text
              label={`${w.letIn}: ${room.name}`}
              value={room.let_in_by ?? ""}
              set={(let_in_by) => edit({ type: "change_room", id: room.id, changes: { let_in_by } })}
            />
          </Line>
        ))}
      </details>
    </Sheet>
  );
}

function Crews() {
  const { outcome } = useWork();
  return (
    <EntryList
      title={w.crews}
      lead={w.crewsLead}
      list="crews"
      rows={outcome.project.crews ?? []}
      name={(row) => row.name}
      fields={[
        { key: "name", as: { type: "text", strong: true } },
        { key: "who", as: { type: "choice", options: optionsOf(words.labour.who) } },
        { key: "people", after: w.people, as: { type: "number", least: 1, most: 12, width: 3 } },
      ]}
      add={{ placeholder: w.addCrew, values: (name) => ({ name }) }}
    />
  );
}

function Waits() {
  const { outcome } = useWork();
  return (
    <EntryList
      title={w.waits}
      lead={w.waitsLead}
      list="waits"
      rows={outcome.project.waits ?? []}
      name={(row) => row.name}
      fields={[
        { key: "name", as: { type: "text", width: 26, strong: true } },
        { key: "who", as: { type: "text", width: 14, placeholder: "who" } },
        { key: "from_day", before: w.on, as: { type: "day" } },
        { key: "after", before: w.after, as: { type: "choice", options: [["", w.none], ...STAGES] } },
        { key: "days", after: w.daysAfter, as: { type: "number", width: 4, most: 365 } },
        { key: "before", before: w.holds, as: { type: "stages", none: w.none } },
        { key: "fallback", before: w.fallback, as: { type: "text", width: 26 } },
        { key: "done", after: w.done, as: { type: "tick" } },
      ]}
      add={{ placeholder: w.addWait, values: (name) => ({ name }) }}
    />
  );
}

function Orders() {
  const { outcome } = useWork();
  return (
    <EntryList
      title={w.orders}
      lead={w.ordersLead}
      list="stage_orders"
      rows={outcome.project.stage_orders ?? []}
      name={(row) => `${row.first} ${row.second}`}
      fields={[
        { key: "first", as: { type: "choice", options: STAGES } },
        { key: "second", before: w.comesBefore, as: { type: "choice", options: STAGES } },
      ]}
      add={{
        label: w.addOrder,
        options: STAGES,
        values: (first) => ({ first, second: first === "other" ? "clear_away" : "other" }),
      }}
    />
  );
}

const List = styled.ol`
  border-top: 1px solid var(--ink);
  &[data-old] { opacity: 0.6; }
  > li { display: grid; grid-template-columns: 128px minmax(0, 1fr); gap: 14px; padding: 7px 0; border-bottom: 1px solid var(--rule); }
  h3 { margin: 0; font: 600 17px var(--voice); display: grid; align-content: start; }
  h3 time, h3 span { font: 13.5px var(--data); color: var(--faint); }
  ul { display: grid; grid-template-columns: repeat(auto-fill, minmax(240px, 1fr)); gap: 0 18px; }
  b { font-weight: 600; }
  i { font-style: normal; color: var(--faint); }
  small { color: var(--faint); font-size: 12.5px; }
  p { color: inherit; font-size: 12.5px; }
  details { font-size: 12.5px; } summary { color: var(--slate); cursor: pointer; }
  ${NARROW} { > li { grid-template-columns: minmax(0, 1fr); gap: 2px; } h3 { display: flex; gap: 10px; align-items: baseline; } }
`;
