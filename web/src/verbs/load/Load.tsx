import styled from "styled-components";
import { data, type Fed, http, type LoadFor } from "../../api/client";
import { useOfRevision, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Amount } from "../../kit/fields";
import { figure, length, lengthUnit } from "../../kit/figures";
import { Heading, OneOf } from "../../kit/parts";
import { Sided } from "../../kit/sided";
import { words } from "../../words";
import { EmptyWalk } from "../walk/EmptyWalk";

const w = words.load;
const { terms } = words;

/** What every powered run takes and loses over its real way; added up per closet and per box, by three schools. */
export function Load() {
  const { outcome, edit } = useWork();
  const load = useOfRevision("load", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/load", { params: { path }, signal })),
  );
  const { settings, rooms } = outcome.project;
  if (!rooms.length) return <EmptyWalk />;
  if (!load) return null;
  return (
    <Surface>
      <div className="main">
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            <span>{w.lead(figure(load.port_v))}</span>
          </Heading>
          {load.runs.length === 0 ? <p className="said">{w.none}</p> : <Runs load={load} />}
        </section>
        {load.runs.length > 0 && <Sums load={load} />}
        <p className="said">{w.caution}</p>
      </div>
      <div className="beside">
        <section aria-label={terms.school}>
          <Heading>
            <h2>{terms.school}</h2>
          </Heading>
          <OneOf
            name="school"
            value={settings.school}
            options={(["class", "rated", "measured"] as const).map((key) => ({
              key,
              text: terms.schools[key],
              why: terms.schoolWhy[key],
            }))}
            onChange={(school) => edit({ type: "change_settings", changes: { school } })}
          />
        </section>
        <Findings verb="load" />
      </div>
    </Surface>
  );
}

function Runs({ load }: { load: LoadFor }) {
  const sorted = [...load.runs].sort((a, b) => (a.spare_v ?? -a.least_v) - (b.spare_v ?? -b.least_v));
  return (
    <div className="wide">
      <table>
        <thead>
          <tr>
            <th>{w.column.drop}</th>
            <th>{w.column.box}</th>
            {(["run", "device", "least", "current", "draw", "lost", "class", "rated", "measured"] as const).map(
              (key) => (
                <th key={key} className="r" title={w.why[key]}>
                  {w.column[key]}
                </th>
              ),
            )}
          </tr>
        </thead>
        <tbody>
          {sorted.map((run) => (
            <OneRun key={run.drop_id} run={run} load={load} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function OneRun({ run, load }: { run: Fed; load: LoadFor }) {
  const { outcome, kinds, choose, chosen, edit } = useWork();
  const { drops, rooms, closets } = outcome.project;
  const drop = drops.find((one) => one.id === run.drop_id);
  if (!drop) return null;
  const kind = kinds.find((one) => one.key === drop.kind)?.name ?? "";
  const name = drop.label || `${kind}, ${rooms.find((room) => room.id === drop.room_id)?.name}`;
  const place = load.box_of[run.drop_id];
  const box = place === undefined ? undefined : load.boxes[place]?.name;
  const spare = run.spare_v;
  const own = (key: LoadFor["school"]) => (key === load.school ? "r own" : "r");
  return (
    <tr data-chosen={chosen.drops.has(run.drop_id) || undefined} data-fails={run.faults.length > 0 || undefined}>
      <th scope="row">
        <button
          type="button"
          onClick={() => choose({ drops: new Set([run.drop_id]), roomId: drop.room_id, path: null })}
        >
          {name}
        </button>
        {run.passed_on_w > 0 && <small>{w.passesOn(figure(run.passed_on_w))}</small>}
        {run.faults.length > 0 && <em>{run.faults.join("; ")}</em>}
      </th>
      <td title={box}>
        {place === undefined ? closets.find((one) => one.id === run.closet_id)?.name : w.box(place + 1)}
      </td>
      <td className="r">
        {length(run.length_m)} {lengthUnit()}
        {run.warm_c > 20 && <i> {figure(run.warm_c)} °C</i>}
      </td>
      <td className="r">{run.device_v == null ? "–" : `${figure(run.device_v)} V`}</td>
      <td className="r">{spare == null ? "–" : `${spare < 0 ? "−" : "+"}${figure(Math.abs(spare))} V`}</td>
      <td className="r">{run.pair_set_a == null ? "–" : w.amperes(run.pair_set_a.toFixed(2), String(run.most_a))}</td>
      <td className="r">{figure(run.draw_w)} W</td>
      <td className="r">{run.lost_w == null ? "–" : `${run.lost_w.toFixed(2)} W`}</td>
      <td className={own("class")}>
        <i>{run.poe_class} · </i>
        {figure(run.class_w)} W
      </td>
      <td className={own("rated")}>{figure(run.rated_w)} W</td>
      <td className={own("measured")}>
        <Amount
          label={w.measuredAt(name)}
          value={run.measured_w ?? null}
          most={100}
          set={(measured_w) => edit({ type: "change_drops", ids: [run.drop_id], changes: { measured_w } })}
        />
      </td>
    </tr>
  );
}

function Sums({ load }: { load: LoadFor }) {
  const { outcome } = useWork();
  const { closets } = outcome.project;
  const own = (key: LoadFor["school"]) => (key === load.school ? "r own" : "r");
  return (
    <section aria-label={w.sums}>
      <Heading>
        <h2>{w.sums}</h2>
        <span>{w.sumsLead(figure(load.margin_percent))}</span>
      </Heading>
      <div className="wide">
        <table>
          <thead>
            <tr>
              <th>{w.column.where}</th>
              {(["powered", "class", "rated", "measured", "counted", "budget", "own", "mains"] as const).map((key) => (
                <th key={key} className="r" title={w.why[key]}>
                  {w.column[key]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {load.closets.map((one) => (
              <tr key={one.closet_id}>
                <th scope="row">{closets.find((closet) => closet.id === one.closet_id)?.name}</th>
                <td className="r">{one.powered.drops}</td>
                <td className={own("class")}>{figure(one.powered.class_w)} W</td>
                <td className={own("rated")}>{figure(one.powered.rated_w)} W</td>
                <td className={own("measured")}>{figure(one.powered.measured_w)} W</td>
                <td className="r">{figure(one.powered.counted_w * (1 + load.margin_percent / 100))} W</td>
                <td colSpan={3} />
              </tr>
            ))}
            {load.boxes.map((box, place) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a box is known by its place
              <tr key={place} className="box" data-fails={box.counted_w > box.budget_w + 1e-6 || undefined}>
                <th scope="row">{w.numbered(place + 1, box.name)}</th>
                <td className="r">{box.powered.drops}</td>
                <td className={own("class")}>{figure(box.powered.class_w)} W</td>
                <td className={own("rated")}>{figure(box.powered.rated_w)} W</td>
                <td className={own("measured")}>{figure(box.powered.measured_w)} W</td>
                <td className="r">{figure(box.counted_w)} W</td>
                <td className="r">{box.budget_w > 0 ? `${figure(box.budget_w)} W` : "–"}</td>
                <td className="r">{figure(box.own_w)} W</td>
                <td className="r">
                  <b>{figure(box.mains_w)} W</b>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="faint">{load.boxes.length ? w.formula : w.noBoxes}</p>
    </section>
  );
}

const Surface = styled(Sided)`
  min-height: 100%;
  > .beside { margin-top: 0; }
  .main { padding: 10px 14px 20px 16px; display: grid; gap: 20px; align-content: start; min-width: 0; }
  .main > section { min-width: 0; }
  .said { font: 14px/1.4 var(--voice); max-width: 72ch; }
  .faint { color: var(--faint); padding-top: 4px; }
  .wide { overflow-x: auto; }
  table { width: 100%; min-width: 760px; }
  th { text-align: left; font-weight: 400; color: var(--faint); padding: 2px 8px 2px 0; white-space: nowrap; }
  thead th { border-bottom: 1px solid var(--ink); }
  tbody th { color: var(--ink); white-space: normal; min-width: 168px; }
  tbody th button { background: none; border: 0; padding: 0; text-align: left; cursor: pointer; }
  tbody th button:hover { text-decoration: underline; }
  tbody th small { color: var(--faint); font-size: 12.5px; margin-left: 6px; }
  tbody th em { display: block; color: var(--clay); font: italic 13px/1.3 var(--voice); }
  td { padding: 2px 8px 2px 0; white-space: nowrap; }
  td i { font-style: normal; color: var(--faint); }
  tbody tr > * { border-bottom: 1px solid var(--rule); vertical-align: baseline; }
  tr[data-chosen] > * { background: var(--earth); }
  tr[data-fails] td { color: var(--clay); }
  tr.box th { padding-left: 14px; }
  .r { text-align: right; padding-right: 10px; }
  .own { font-weight: 650; }
  td input { background: none; border: 0; border-bottom: 1px dotted var(--faint); width: 6ch; text-align: right; padding: 0 1px; }
  td input::placeholder { color: var(--faint); opacity: 1; }
`;
