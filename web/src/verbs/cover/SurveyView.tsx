import { useMemo, useState } from "react";
import styled from "styled-components";
import { type Band, data, http, type Reading, type SurveyFor } from "../../api/client";
import { addTo, changeIn, type Edit } from "../../api/edits";
import { readReadings } from "../../api/files";
import { useOfRevision, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { DrawingSurface } from "../../instruments/plan/DrawingSurface";
import { FloorPlan } from "../../instruments/plan/FloorPlan";
import { FloorTabs, useFloors } from "../../instruments/plan/FloorTabs";
import { onGrid, type Spot } from "../../instruments/plan/geometry";
import { useLayout } from "../../instruments/plan/useLayout";
import { Chooser, optionsOf } from "../../kit/Choice";
import { FileWord } from "../../kit/FileWord";
import { exact, figure } from "../../kit/figures";
import { Field, Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { useSignal } from "./useSignal";

const w = words.survey;
const STEP_M = 0.1;
const FAINTEST = -100;

/** What stays from one reading to the next. */
interface Said {
  walk: string;
  device: string;
  band: Band;
  dbm: number;
  station: string;
  generation: keyof typeof w.generations;
}

/** Readings taken on a walk, beside what is predicted, and the losses of this house that they tell. */
export function SurveyView() {
  const { id, outcome, edit, say } = useWork();
  const layout = useLayout();
  const floors = useFloors();
  const signal = useSignal();
  const survey = useOfRevision("survey", (path, abort) =>
    data(http.GET("/api/projects/{project_id}/signal/survey", { params: { path }, signal: abort })),
  );
  const readings = outcome.project.readings ?? [];
  const last = readings.at(-1);
  const [picked, setPicked] = useState<number | null>(null);
  const [spot, setSpot] = useState<Spot | null>(null);
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<Said>(() => saidOf(last));
  const names = useMemo(() => new Map(signal?.stations.map((one) => [one.drop_id, one.name])), [signal]);
  const floor =
    floors.find((one) => one.id === (picked ?? last?.floor_id ?? signal?.stations[0]?.floor_id)) ?? floors[0];
  if (!layout || !signal || !survey || !floor) return null;
  const beside = new Map(survey.readings.map((line) => [line.reading_id, line]));
  const here = readings.filter((one) => one.floor_id === floor.id);
  const keep = async () => {
    if (!spot) return;
    const values = {
      walk: said.walk || w.walkName,
      device: said.device || w.deviceName,
      band: said.band,
      dbm: said.dbm,
      floor_id: floor.id,
      x_m: spot[0],
      y_m: spot[1],
      drop_id: said.station ? Number(said.station) : null,
      generation: said.generation || null,
    };
    if (await edit(addTo("readings", values))) setSpot(null);
  };
  const bringIn = async (file: File) => {
    setBusy(true);
    try {
      const edits = await readReadings(id, file);
      if (edits.length) await edit(...edits);
    } catch (error) {
      say((error as Error).message);
    }
    setBusy(false);
  };
  return (
    <SurveySurface>
      <div className="drawing">
        <div className="tools">
          <FloorTabs
            floors={floors}
            now={floor.id}
            choose={(number) => {
              setPicked(number);
              setSpot(null);
            }}
          />
          <FileWord label={w.bringIn} busy={busy && w.reading} accept=".csv,.xlsx,.txt,.tsv" onFile={bringIn} />
          {readings.length > 0 && <a href={`/api/projects/${id}/signal/readings.csv`}>{w.takeOut}</a>}
          <span role="status">{w.hint}</span>
        </div>
        <FloorPlan
          key={floor.id}
          floor={floor}
          layout={layout.layout}
          ways={[]}
          measuring={[]}
          onMeasured={([x, y]) => setSpot([onGrid(x, STEP_M), onGrid(y, STEP_M)])}
          over={(px) => (
            <>
              <Taken>
                {here.map((one) => (
                  <g key={one.id} transform={`translate(${one.x_m} ${one.y_m}) scale(${px})`}>
                    <path d="M-4 -4L4 4M-4 4L4 -4" />
                    <text x={7} y={4} fontSize={12} strokeWidth={4}>
                      {exact(one.dbm)}
                    </text>
                  </g>
                ))}
              </Taken>
              {spot && <Standing cx={spot[0]} cy={spot[1]} r={7 * px} />}
            </>
          )}
        />
        <ReadingTable readings={readings} beside={beside} names={names} />
      </div>
      <div className="beside">
        <Sheet aria-label={w.here}>
          <Heading>
            <h2>{w.here}</h2>
            {!spot && <span>{w.press}</span>}
          </Heading>
          <Level>
            <Word aria-label={w.weaker} onPress={() => setSaid({ ...said, dbm: Math.max(FAINTEST, said.dbm - 1) })}>
              −
            </Word>
            <Field
              aria-label={w.level}
              inputMode="numeric"
              value={said.dbm}
              onChange={(event) => {
                const typed = Number(event.target.value);
                if (Number.isFinite(typed)) setSaid({ ...said, dbm: Math.max(-120, Math.min(0, -Math.abs(typed))) });
              }}
            />
            <span>{w.dbm}</span>
            <Word aria-label={w.stronger} onPress={() => setSaid({ ...said, dbm: Math.min(0, said.dbm + 1) })}>
              +
            </Word>
          </Level>
          <Line label={w.band}>
            <Chooser
              label={w.band}
              value={said.band}
              options={optionsOf(words.signal.bands)}
              set={(band) => setSaid({ ...said, band })}
            />
          </Line>
          <Line label={w.station}>
            <Chooser
              label={w.station}
              value={said.station}
              options={[["", w.unknown], ...[...names].map(([key, name]) => [String(key), name] as const)]}
              set={(station) => setSaid({ ...said, station })}
            />
          </Line>
          <Line label={w.generation}>
            <Chooser
              label={w.generation}
              value={said.generation}
              options={optionsOf(w.generations)}
              set={(generation) => setSaid({ ...said, generation })}
            />
          </Line>
          <Line label={w.device}>
            <input
              aria-label={w.device}
              value={said.device}
              placeholder={w.deviceName}
              onChange={(event) => setSaid({ ...said, device: event.target.value })}
            />
          </Line>
          <Line label={w.walk}>
            <input
              aria-label={w.walk}
              value={said.walk}
              placeholder={w.walkName}
              onChange={(event) => setSaid({ ...said, walk: event.target.value })}
            />
          </Line>
          <div className="acts">
            <Word isDisabled={!spot} onPress={keep}>
              {w.keep}
            </Word>
          </div>
        </Sheet>
        <Told survey={survey} />
        <Findings verb="cover" />
      </div>
    </SurveySurface>
  );
}

const saidOf = (last: Reading | undefined): Said => ({
  walk: last?.walk ?? w.walkName,
  device: last?.device ?? w.deviceName,
  band: last?.band ?? "5",
  dbm: last?.dbm ?? -60,
  station: "",
  generation: "",
});

function ReadingTable(props: {
  readings: readonly Reading[];
  beside: ReadonlyMap<number, SurveyFor["readings"][number]>;
  names: ReadonlyMap<number, string>;
}) {
  const { edit } = useWork();
  return (
    <Section aria-label={w.readings}>
      <Heading>
        <h2>{w.readings}</h2>
        {!props.readings.length && <span>{w.none}</span>}
      </Heading>
      <ul>
        {[...props.readings].reverse().map((one) => {
          const line = props.beside.get(one.id);
          const station = line?.drop_id == null ? "" : (props.names.get(line.drop_id) ?? "");
          return (
            <li key={one.id}>
              <b>{`${exact(one.dbm)} dBm`}</b>
              <span>{words.signal.bands[one.band]}</span>
              <span>{line?.is_guessed ? `${station}, ${w.guessed}` : station}</span>
              <span>{line?.predicted_dbm == null ? w.notPredicted : w.predicted(figure(line.predicted_dbm))}</span>
              <i>{line?.error_db == null ? "" : w.error(figure(line.error_db))}</i>
              <em>{line?.repeat || `${one.device}, ${one.walk}`}</em>
              <Word onPress={() => edit({ type: "remove_entry", list: "readings", id: one.id })}>{w.remove}</Word>
            </li>
          );
        })}
      </ul>
    </Section>
  );
}

/** The error by device, and the losses that the readings tell, to be taken with one press. */
function Told({ survey }: { survey: SurveyFor }) {
  const { outcome, edit } = useWork();
  const { losses: known, offsets } = outcome.project;
  const { correction } = survey;
  const told = correction.losses.filter((one) => one.db != null);
  const take = (): Edit[] =>
    told.map((one) => {
      if (one.kind === "device") {
        const row = offsets?.find((offset) => offset.device === one.what);
        return row
          ? changeIn("offsets", row.id, { db: one.db ?? 0 })
          : addTo("offsets", { device: one.what, db: one.db ?? 0 });
      }
      const row = known?.find((loss) => loss.make === one.what && loss.band === one.band);
      return row
        ? changeIn("losses", row.id, { db: one.db ?? 0 })
        : addTo("losses", { make: one.what, band: one.band as Band, db: one.db ?? 0 });
    });
  const drop = (): Edit[] => [
    ...(known ?? []).map((row): Edit => ({ type: "remove_entry", list: "losses", id: row.id })),
    ...(offsets ?? []).map((row): Edit => ({ type: "remove_entry", list: "offsets", id: row.id })),
  ];
  const hasKnown = (known?.length ?? 0) + (offsets?.length ?? 0) > 0;
  if (!survey.devices.length && !hasKnown) return null;
  return (
    <>
      {survey.devices.length > 0 && (
        <Sheet aria-label={w.devices}>
          <Heading>
            <h2>{w.devices}</h2>
          </Heading>
          {survey.devices.map((one) => (
            <Line key={`${one.device} ${one.band}`} label={`${one.device}, ${one.band}`}>
              <span>{w.deviceLine(one.readings, figure(one.mean_db), figure(one.spread_db))}</span>
            </Line>
          ))}
        </Sheet>
      )}
      <Sheet aria-label={w.correction}>
        <Heading>
          <h2>{w.correction}</h2>
        </Heading>
        {correction.before_db != null && correction.after_db != null && (
          <p>
            {w.correctionLead(figure(correction.before_db), figure(correction.after_db))}{" "}
            {correction.apart_after_db != null && w.apart(figure(correction.apart_after_db))}
            {correction.apart_after_db != null && correction.apart_after_db >= correction.before_db && ` ${w.worse}`}
          </p>
        )}
        {correction.losses.map((one) => (
          <Line
            key={`${one.what} ${one.band}`}
            label={`${one.what.replace("floor-", "floor, ").replace("_", " ")}${one.band ? ` ${one.band}` : ""}`}
          >
            <span>{one.db == null ? w.untold : w.told(figure(one.db), figure(1.98 * (one.error_db ?? 0)))}</span>
            <i>{one.kind === "device" ? w.more : w.was(figure(one.was_db))}</i>
          </Line>
        ))}
        <div className="acts">
          {told.length > 0 && <Word onPress={() => edit(...take())}>{w.use}</Word>}
          {hasKnown && <Word onPress={() => edit(...drop())}>{w.drop}</Word>}
        </div>
        {hasKnown && <p className="faint">{w.known}</p>}
      </Sheet>
    </>
  );
}

const SurveySurface = styled(DrawingSurface)`
  > :first-child { grid-template-rows: auto minmax(0, 1fr) fit-content(34%); }
  ${NARROW} {
    > :first-child { grid-template-rows: auto 46vh auto; }
    > :first-child > section { display: none; }
  }
`;
const Level = styled.div`
  display: flex; gap: 12px; align-items: baseline; padding: 4px 0;
  button { font-size: 20px; padding: 2px 12px; }
  &&& input { width: 6ch; text-align: right; font-size: 17px; flex: none; }
`;
const Taken = styled.g`
  pointer-events: none;
  path { stroke: var(--ink); stroke-width: 1.6; fill: none; }
  text { fill: var(--ink); stroke: var(--sheet); paint-order: stroke; font-weight: 600; font-stretch: 84%; }
`;
const Standing = styled.circle`
  fill: none; stroke: var(--clay); stroke-width: 2.4; vector-effect: non-scaling-stroke; pointer-events: none;
`;
const Section = styled.section`
  min-height: 0; display: grid; grid-template-rows: auto minmax(0, 1fr);
  ul { overflow: auto; border-top: 1px solid var(--ink); }
  li {
    display: grid; grid-template-columns: 70px 60px minmax(0, 1fr) 130px 60px minmax(0, 1fr) auto; gap: 10px; padding: 3px 2px;
    border-bottom: 1px solid var(--rule); align-items: baseline;
  }
  li > * { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-style: normal; }
  b { font-weight: 550; text-align: right; }
  i { text-align: right; }
  em { color: var(--faint); }
`;
