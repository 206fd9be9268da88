import { data, type Fed, http, type LoadFor } from "../../api/client";
import { useChosen, useOfRevision, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Amount } from "../../kit/fields";
import { figure, length, lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { OneOf } from "../../kit/Tick";
import { words } from "../../words";
import { FigureHeads, Surface } from "./Surface";

const w = words.load;
const { terms } = words;

/** Power: what every powered run takes and loses over its real way; added up per closet and per box, by three schools. */
export function PowerView() {
  const { outcome, edit } = useWork();
  const load = useOfRevision("load", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/load", { params: { path }, signal })),
  );
  const { settings } = outcome.project;
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
        <section aria-label={w.cords}>
          <Heading>
            <h2>{w.cords}</h2>
          </Heading>
          <OneOf
            name="cords"
            value={settings.cords}
            options={(["usual", "awg26", "thin"] as const).map((key) => ({
              key,
              text: w.cord[key],
              why:
                key === "thin"
                  ? w.thinAdds(figure(load.runs.reduce((sum, run) => sum + (run.thin_w ?? 0), 0)))
                  : w.cordWhy[key],
            }))}
            onChange={(cords) => edit({ type: "change_settings", changes: { cords } })}
          />
          <Sheet as="div">
            <Line label={w.cordsLength}>
              <Amount
                label={w.cordsLength}
                value={settings.cords_m}
                metres
                most={20}
                set={(value) => edit({ type: "change_settings", changes: { cords_m: value ?? 4 } })}
              />
              <i>
                {lengthUnit()} {w.bothEnds}
              </i>
            </Line>
            <Line label={w.contacts}>
              <Amount
                label={w.contacts}
                value={settings.contacts}
                most={12}
                set={(value) => edit({ type: "change_settings", changes: { contacts: value ?? 4 } })}
              />
              <i>{w.contactsWhy}</i>
            </Line>
            <Line label={w.volts}>
              <Amount
                label={w.volts}
                value={settings.port_volts}
                least={44}
                most={57}
                set={(value) => edit({ type: "change_settings", changes: { port_volts: value ?? 53 } })}
              />
              <i>V</i>
            </Line>
          </Sheet>
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
            <FigureHeads
              keys={["run", "device", "least", "current", "draw", "lost", "class", "rated", "measured"]}
              column={w.column}
              why={w.why}
            />
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
  const { outcome, kinds, edit, choose } = useWork();
  const chosen = useChosen();
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
      <td className="r" title={run.is_assumed ? w.assumed : undefined}>
        {run.is_assumed && <i>≤ </i>}
        {figure(run.draw_w)} W
      </td>
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
  // without a single measurement the sum would only repeat what is rated
  const isMeasured = load.runs.some((run) => run.measured_w !== null);
  const measured = (watts: number) => (isMeasured ? `${figure(watts)} W` : "–");
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
              <FigureHeads
                keys={["powered", "class", "rated", "measured", "counted", "budget", "own", "mains"]}
                column={w.column}
                why={w.why}
              />
            </tr>
          </thead>
          <tbody>
            {load.closets.map((one) => (
              <tr key={one.closet_id}>
                <th scope="row">{closets.find((closet) => closet.id === one.closet_id)?.name}</th>
                <td className="r">{one.powered.drops}</td>
                <td className={own("class")}>{figure(one.powered.class_w)} W</td>
                <td className={own("rated")}>{figure(one.powered.rated_w)} W</td>
                <td className={own("measured")}>{measured(one.powered.measured_w)}</td>
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
                <td className={own("measured")}>{measured(box.powered.measured_w)}</td>
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
