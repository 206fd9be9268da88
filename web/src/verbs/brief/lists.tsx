import { useQuery } from "@tanstack/react-query";
import { data, http } from "../../api/client";
import { useOfRevision, useWork } from "../../api/work";
import { useLineKinds } from "../../catalogues/useLineKinds";
import { EntryList } from "../../instruments/EntryList";
import { optionsOf } from "../../kit/Choice";
import { minorPerUnit, speed } from "../../kit/figures";
import { small } from "../../kit/names";
import { words } from "../../words";

const w = words.brief;
const PORTS = [100, 1000, 2500, 5000, 10000];

/** Statements that can be checked later: where, how much, and how. */
export function Goals() {
  const { outcome } = useWork();
  const kinds = useQuery({
    queryKey: ["goal-kinds"],
    queryFn: () => data(http.GET("/api/goal-kinds")),
    staleTime: Infinity,
  });
  const of = (key: string) => kinds.data?.find((kind) => kind.key === key);
  return (
    <EntryList
      title={w.goals}
      lead={w.goalsLead}
      list="goals"
      rows={outcome.project.goals}
      name={(goal) => of(goal.kind)?.name ?? goal.kind}
      fields={[
        { key: "kind", as: { type: "choice", options: (kinds.data ?? []).map((kind) => [kind.key, kind.name]) } },
        {
          key: "level",
          when: (goal) => Boolean(of(goal.kind)?.unit),
          as: { type: "number", least: -200, usual: (goal) => of(goal.kind)?.level ?? undefined },
        },
        {
          key: "room_ids",
          before: w.in,
          as: { type: "rooms", none: w.everywhere },
          when: (goal) => goal.kind !== "image",
        },
        {
          key: "target_ids",
          before: w.of,
          as: { type: "targets", none: w.everyTarget },
          when: (goal) => goal.kind === "image",
        },
        {
          key: "share_percent",
          before: w.share,
          after: "%",
          as: {
            type: "number",
            width: 4,
            least: 1,
            most: 100,
            usual: (goal) => of(goal.kind)?.share_percent ?? undefined,
          },
          when: (goal) => of(goal.kind)?.share_percent != null,
        },
        {
          key: "band",
          before: w.atBand,
          as: { type: "choice", options: [["", w.anyBand], ...optionsOf(words.signal.bands)] },
          when: (goal) => of(goal.kind)?.share_percent != null,
        },
        { key: "note", as: { type: "text", width: 30, placeholder: w.howTested } },
      ]}
      units={(goal) => `${of(goal.kind)?.unit ?? ""}`}
      below={(goal) => of(goal.kind)?.test ?? ""}
      add={{
        label: w.addGoal,
        options: (kinds.data ?? []).map((kind) => [kind.key, kind.name]),
        values: (kind) => ({ kind, level: of(kind)?.level ?? null }),
      }}
    />
  );
}

export function Lines() {
  const { outcome } = useWork();
  const { lines, entries, settings } = outcome.project;
  return (
    <EntryList
      title={w.lines}
      lead={w.linesLead}
      list="lines"
      rows={lines}
      name={(line) => line.name}
      fields={[
        { key: "name", as: { type: "text", strong: true } },
        { key: "kind", as: { type: "choice", options: optionsOf(w.lineKinds) } },
        { key: "down_mbit", as: { type: "number", least: 1, most: 100_000 }, after: w.down },
        { key: "up_mbit", as: { type: "number", least: 1, most: 100_000 }, after: w.up },
        { key: "source", before: w.source, as: { type: "text", width: 12, placeholder: "?" } },
        { key: "as_of", as: { type: "day" } },
        {
          key: "handoff_mbit",
          before: w.handoff,
          as: { type: "choice", numeric: true, options: PORTS.map((port) => [String(port), speed(port)]) },
        },
        { key: "box", before: w.box, as: { type: "choice", options: optionsOf(w.boxes) } },
        { key: "box_wifi", before: w.boxWifi, when: (line) => line.box !== "none", as: { type: "tick" } },
        { key: "television", before: w.television, as: { type: "tick" } },
        {
          key: "entry_id",
          before: w.enters,
          as: {
            type: "choice",
            numeric: true,
            options: [["", w.noEntry], ...entries.map((entry): [string, string] => [String(entry.id), entry.name])],
          },
        },
        { key: "way_planned", before: w.wayPlanned, as: { type: "tick" } },
        { key: "standby", before: w.standby, as: { type: "tick" } },
        {
          key: "yearly_minor",
          as: { type: "number", scale: minorPerUnit(settings.currency) },
          after: w.aYear(settings.currency),
        },
      ]}
      add={{ placeholder: w.addLine, values: (name) => ({ name, down_mbit: 250, up_mbit: 50 }) }}
    >
      <Entries />
    </EntryList>
  );
}

function Entries() {
  const { outcome } = useWork();
  const { entries, rooms } = outcome.project;
  const first = rooms[0];
  if (!first) return null;
  return (
    <EntryList
      title={w.entries}
      lead={w.entriesLead}
      list="entries"
      rows={entries}
      name={(entry) => entry.name}
      fields={[
        { key: "name", as: { type: "text", strong: true } },
        {
          key: "room_id",
          before: w.in,
          as: { type: "choice", numeric: true, options: rooms.map((room) => [String(room.id), room.name]) },
        },
      ]}
      add={{ placeholder: w.addEntry, values: (name) => ({ name, room_id: first.id }) }}
    />
  );
}

export function Clients() {
  const { outcome } = useWork();
  const names = outcome.project.wifi_names ?? [];
  return (
    <EntryList
      title={w.clients}
      lead={w.clientsLead}
      list="clients"
      rows={outcome.project.clients}
      name={(client) => client.name}
      fields={[
        { key: "count", as: { type: "number", width: 4, least: 1, most: 10_000 } },
        { key: "name", as: { type: "text", strong: true, width: 24 } },
        { key: "at_once", as: { type: "number", width: 4, most: 10_000, usual: (c) => c.count }, after: w.atOnce },
        {
          key: "generation",
          as: { type: "choice", options: ["802.11n", "802.11ac", "802.11ax", "802.11be"].map((key) => [key, key]) },
        },
        { key: "band_2", before: "2.4", as: { type: "tick" } },
        { key: "band_5", before: "5", as: { type: "tick" } },
        { key: "band_6", before: "6 GHz", as: { type: "tick" } },
        { key: "mobile", before: w.mobile, as: { type: "tick" } },
        { key: "streams", before: w.streams, as: { type: "number", width: 3, least: 1, most: 8 } },
        {
          key: "demand_mbit",
          before: w.demand,
          after: "Mbit/s",
          as: { type: "number", width: 5, least: 0.01, most: 10_000 },
        },
        { key: "room_ids", before: w.in, as: { type: "rooms", none: w.byUse } },
        {
          key: "wifi_name_id",
          before: w.joins,
          when: () => names.length > 0,
          as: {
            type: "choice",
            numeric: true,
            options: [["", w.firstName], ...names.map((one) => [String(one.id), one.name] as const)],
          },
        },
      ]}
      add={{ placeholder: w.addClients, values: (name) => ({ name, count: 1 }) }}
    />
  );
}

export function Growth() {
  const { outcome, kinds } = useWork();
  const { additions, settings } = outcome.project;
  const years = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];
  return (
    <EntryList
      title={w.growth}
      lead={w.growthLead(settings.growth_percent, settings.horizon_years)}
      list="additions"
      rows={additions}
      name={(addition) => kinds.find((kind) => kind.key === addition.kind)?.plural ?? addition.kind}
      fields={[
        { key: "count", as: { type: "number", width: 4, least: 1, most: 500 } },
        { key: "kind", as: { type: "choice", options: kinds.map((kind) => [kind.key, small(kind.plural)]) } },
        {
          key: "years",
          before: w.in,
          as: {
            type: "choice",
            numeric: true,
            options: years.map((year) => [String(year), String(settings.start_year + year)]),
          },
        },
      ]}
      add={{
        label: w.addGrowth,
        options: kinds.map((kind) => [kind.key, small(kind.plural)]),
        values: (kind) => ({ kind, count: 1, years: 2 }),
      }}
    />
  );
}

export function Services() {
  const { outcome } = useWork();
  return (
    <EntryList
      title={w.services}
      lead={w.servicesLead}
      list="services"
      rows={outcome.project.services}
      name={(service) => w.serviceKinds[service.kind]}
      fields={[
        { key: "kind", as: { type: "choice", options: optionsOf(w.serviceKinds) } },
        { key: "must_survive", before: w.mustSurvive, as: { type: "tick" } },
        { key: "room_ids", before: w.outlets, as: { type: "rooms", none: w.noOutlet } },
        { key: "nameplate", as: { type: "text", width: 11, placeholder: w.nameplate } },
        { key: "note", as: { type: "text", width: 28, placeholder: w.note } },
      ]}
      add={{ label: w.addService, options: optionsOf(w.serviceKinds), values: (kind) => ({ kind }) }}
    />
  );
}

export function Kit() {
  const { outcome } = useWork();
  const catalogue = useOfRevision("catalogue", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/catalogue", { params: { path }, signal })),
  );
  const picked = useLineKinds().filter((kind) => kind.in_picks);
  const models = catalogue?.models.filter((model) => picked.some((kind) => kind.key === model.kind)) ?? [];
  return (
    <EntryList
      title={w.kit}
      lead={w.kitLead}
      list="kit"
      rows={outcome.project.kit}
      name={(kit) => kit.name}
      fields={[
        { key: "count", as: { type: "number", width: 3, least: 1, most: 500 }, after: "×" },
        { key: "name", as: { type: "text", strong: true, width: 28 } },
        { key: "fate", as: { type: "choice", options: optionsOf(w.fates) } },
        {
          key: "phase",
          before: w.phase,
          when: (kit) => kit.fate !== "kept",
          as: { type: "text", width: 12, placeholder: "?" },
        },
        {
          key: "model",
          before: w.sameAs,
          when: (kit) => kit.fate === "kept",
          as: {
            type: "choice",
            options: [["", w.noModel], ...models.map((model): [string, string] => [model.key, model.name])],
          },
        },
        { key: "note", as: { type: "text", width: 24, placeholder: w.note } },
      ]}
      add={{ placeholder: w.addKit, values: (name) => ({ name }) }}
    />
  );
}

/** What is temporary, what was declined, and who does what. */
export function Agreements() {
  const { outcome } = useWork();
  const { measures, declined, duties } = outcome.project;
  return (
    <>
      <EntryList
        title={w.measures}
        lead={w.measuresLead}
        list="measures"
        rows={measures}
        name={(measure) => measure.name}
        fields={[
          { key: "name", as: { type: "text", strong: true, width: 30 } },
          { key: "owner", before: w.owner, as: { type: "text", width: 10, placeholder: "?" } },
          { key: "phase", before: w.endsIn, as: { type: "text", width: 12, placeholder: "?" } },
          { key: "ended", before: w.ended, as: { type: "tick" } },
        ]}
        add={{ placeholder: w.addMeasure, values: (name) => ({ name }) }}
      />
      <EntryList
        title={w.declined}
        lead={w.declinedLead}
        list="declined"
        rows={declined}
        name={(advice) => advice.advice}
        fields={[
          { key: "advice", as: { type: "text", strong: true, width: 40 } },
          { key: "day", as: { type: "day" } },
          { key: "by", before: w.by, as: { type: "text", width: 18, placeholder: "?" } },
        ]}
        add={{ placeholder: w.addDeclined, values: (advice) => ({ advice, day: today() }) }}
      />
      <EntryList
        title={w.duties}
        list="duties"
        rows={duties}
        name={(duty) => duty.task}
        fields={[
          { key: "task", as: { type: "text", strong: true, width: 36 } },
          { key: "who", as: { type: "choice", options: optionsOf(w.who) } },
        ]}
        add={{ placeholder: w.addDuty, values: (task) => ({ task }) }}
      />
    </>
  );
}

const today = () => new Date().toISOString().slice(0, 10);
