import { type FormEvent, useEffect, useState } from "react";
import styled from "styled-components";
import { addTo, type Values } from "../../api/edits";
import { useWork } from "../../api/work";
import { exact, typedFigure } from "../../kit/figures";
import { Field, Heading, Word } from "../../kit/parts";
import { TickBox } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { useBegan } from "../../kit/useBegan";
import { words } from "../../words";
import { type Acceptance, type Checked, measured } from "./AcceptanceView";
import { ResultBars } from "./ResultBars";
import { SignalPlot } from "./SignalPlot";
import { SpeedPlot } from "./SpeedPlot";
import { clock, Stamp } from "./TestSheet";

const w = words.acceptance;

/** One check: how it is tested, what it showed, and the next result, written down with a thumb. */
export function CheckSheet({ one, told }: { one: Checked; told: Acceptance }) {
  const { outcome, edit } = useWork();
  const { check } = one;
  const rows = (outcome.project.acceptance ?? []).filter((row) => row.key === check.key);
  const spots = told.walked.filter((spot) => spot.key === check.key);
  const speeds = told.speeds.filter((series) => series.key === check.key);
  return (
    <Sheet aria-label={check.name}>
      <Heading>
        <h2>{check.name}</h2>
        <Stamp data-verdict={one.verdict}>{w.verdict[one.verdict]}</Stamp>
      </Heading>
      <p>
        {w.how(check.way)}
        {check.wanted != null && ` ${w.asked(check.at_least, measured(check.wanted, check.unit))}`}
        {check.planned != null && ` ${w.planned(measured(check.planned, check.unit))}`}
        {one.spots > 0 && ` ${w.ofWalk(one.spots)}`}
      </p>
      {one.text && <p className={one.verdict === "failed" ? "breaks" : ""}>{one.text}</p>}
      <Result key={rows.length} one={one} />
      {speeds.length > 0 && <SpeedPlot speeds={speeds} wanted={check.wanted ?? null} />}
      {spots.length > 0 && <SignalPlot spots={spots} wanted={check.wanted ?? null} />}
      {speeds.length === 0 && spots.length === 0 && check.unit && <ResultBars one={one} rows={rows} />}
      {rows.length > 0 && (
        <section aria-label={w.results}>
          <Heading>
            <h2>{w.results}</h2>
            {one.low != null && one.high != null && one.low < one.high && (
              <span>{w.spread(exact(one.low), measured(one.high, check.unit))}</span>
            )}
          </Heading>
          <ul>
            {rows.toReversed().map((row) => (
              <li key={row.id}>
                <small>{(row.at ?? "").slice(0, 16).replace("T", " ")}</small>
                <b>{row.value != null ? measured(row.value, check.unit) : row.met ? w.yes : w.no}</b>
                <span>
                  {[row.before && w.beforeWork, row.over_air && w.overAir, row.place, row.note, row.by]
                    .filter(Boolean)
                    .join(", ")}
                </span>
                <button
                  type="button"
                  aria-label={w.removeResult(row.at ?? "")}
                  onClick={() => edit({ type: "remove_entry", list: "acceptance", id: row.id })}
                >
                  ×
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </Sheet>
  );
}

function Result({ one }: { one: Checked }) {
  const { outcome, edit, say } = useWork();
  const { check } = one;
  const last = outcome.project.acceptance?.at(-1);
  const [typed, setTyped] = useState("");
  const [place, setPlace] = useState("");
  const [note, setNote] = useState("");
  const [by, setBy] = useState(last?.by ?? "");
  const [before, setBefore] = useState(false);
  const [overAir, setOverAir] = useState(false);
  const keep = (values: Values<"acceptance">) =>
    edit(addTo("acceptance", { key: check.key, at: clock(), by, place, note, before, over_air: overAir, ...values }));
  /** Passed or failed by a word: of what has no figure, no pass level, or needs it beside its figure. */
  const saidSo = !check.unit || check.wanted == null || check.by_word;
  const tell = (met: boolean) => {
    const value = typedFigure(typed);
    return keep(typed.trim() && Number.isFinite(value) ? { met, value } : { met });
  };
  const write = (event: FormEvent) => {
    event.preventDefault();
    const value = typedFigure(typed);
    if (!Number.isFinite(value)) return say(w.noFigure(typed));
    void keep({ value });
  };
  return (
    <form onSubmit={write}>
      {check.unit && (
        <span className="figure">
          <Field
            aria-label={w.value}
            placeholder={w.value}
            inputMode="text"
            size={8}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
          {check.unit}
          {(check.unit === "min" || check.unit === "s") && (
            <Drill name={check.key} seconds={check.unit === "s"} done={(value) => keep({ value })} />
          )}
        </span>
      )}
      <span>
        <Field
          aria-label={w.place}
          placeholder={w.place}
          size={16}
          value={place}
          onChange={(event) => setPlace(event.target.value)}
        />
        <Field
          aria-label={w.by}
          placeholder={w.by}
          size={8}
          value={by}
          onChange={(event) => setBy(event.target.value)}
        />
      </span>
      <Field aria-label={w.note} placeholder={w.note} value={note} onChange={(event) => setNote(event.target.value)} />
      <span>
        <TickBox value={before} set={setBefore}>
          {w.beforeWork}
        </TickBox>
        {check.unit === "Mbit/s" && (
          <TickBox value={overAir} set={setOverAir}>
            {w.overAir}
          </TickBox>
        )}
      </span>
      <span className="acts">
        {check.unit && <Word type="submit">{w.write}</Word>}
        {saidSo && <Word onPress={() => tell(true)}>{w.yes}</Word>}
        {saidSo && <Word onPress={() => tell(false)}>{w.no}</Word>}
      </span>
    </form>
  );
}

/** A clock for a drill: begun, and stopped when it is over. */
function Drill(props: { name: string; seconds: boolean; done: (value: number) => Promise<boolean> }) {
  const { name, seconds, done } = props;
  const { id } = useWork();
  const { began, begin, end } = useBegan(`${id} ${name}`);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (began === null) return;
    const ticking = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(ticking);
  }, [began]);
  if (began === null) return <Word onPress={begin}>{w.begin}</Word>;
  const gone = Math.max(0, now - began) / 1000;
  const shown = `${Math.floor(gone / 60)}:${String(Math.floor(gone % 60)).padStart(2, "0")}`;
  const value = seconds ? Math.round(gone) : Math.round(gone / 6) / 10;
  return (
    <>
      <b role="timer">{shown}</b>
      <Word
        onPress={async () => {
          if (await done(value)) end();
        }}
      >
        {w.over}
      </Word>
    </>
  );
}

const Sheet = styled.section`
  display: grid; grid-template-columns: minmax(0, 1fr); gap: 10px; align-content: start; min-width: 0;
  > div:first-child { white-space: normal; }
  p { color: var(--faint); } p.breaks { color: var(--clay); }
  form { display: grid; gap: 8px; border-top: 1px solid var(--rule); padding-top: 8px; }
  form > span { display: flex; gap: 6px 14px; align-items: baseline; flex-wrap: wrap; }
  .figure input { text-align: right; font-size: 17px; }
  li { display: grid; grid-template-columns: 104px 84px minmax(0, 1fr) 20px; gap: 8px; align-items: baseline; border-bottom: 1px solid var(--rule); padding: 3px 0; }
  li b { text-align: right; font-weight: 600; } li small, li span { color: var(--faint); font-size: 12.5px; }
  li button { background: none; border: 0; color: var(--clay); cursor: pointer; }
  ul { max-height: 220px; overflow: auto; }
  ${NARROW} { .acts button { font-size: 19px; padding: 12px 0; min-height: 48px; } form input { font-size: 17px; padding: 8px 2px; } }
`;
