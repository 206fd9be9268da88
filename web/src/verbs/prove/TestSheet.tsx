import { useState } from "react";
import styled from "styled-components";
import { addTo, changeIn, type Values } from "../../api/edits";
import { useWork } from "../../api/work";
import { PhotoRow } from "../../instruments/PhotoRow";
import { Chooser, optionsOf } from "../../kit/Choice";
import { exact, typedFigure } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { STRAIGHT, Stitches, Stitching, said } from "./Stitches";
import { rate, type TestedRun } from "./useTests";

const w = words.prove;
const LINKS = [0, 10, 100, 1000, 2500, 5000, 10_000] as const;
const FIGURES = ["length_m", "fault_m", "loop_ohm", "poe_v", "poe_w"] as const;
type Figure = (typeof FIGURES)[number];
const UNITS: Record<Figure, string> = { length_m: "m", fault_m: "m", loop_ohm: "Ω", poe_v: "V", poe_w: "W" };
const LABELS: Record<Figure, string> = {
  length_m: w.length,
  fault_m: w.fault,
  loop_ohm: w.loop,
  poe_v: w.volts,
  poe_w: w.watts,
};
const NOTHING = { length_m: "", fault_m: "", loop_ohm: "", poe_v: "", poe_w: "" };

/** Now, as the clock on the wall says it. */
export function clock(): string {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 19);
}

/** One run: what it should show, what its last test tells, and the next test, written down with a thumb. */
export function TestSheet({ run }: { run: TestedRun }) {
  const { outcome, edit } = useWork();
  const { expected } = run;
  const last = outcome.project.run_tests?.find((test) => test.id === run.test_id);
  const tests = (outcome.project.run_tests ?? []).filter((test) => test.drop_id === run.drop_id);
  return (
    <Sheet aria-label={run.name}>
      <Heading>
        <h2>{run.name}</h2>
        <span>{run.label !== run.name && run.label}</span>
        <Stamp data-verdict={run.verdict}>{w.verdict[run.verdict]}</Stamp>
      </Heading>
      <p>
        {w.expected(exact(expected.length_m), rate(expected.speed_mbit))}
        {expected.port_mbit != null && `, ${w.port(rate(expected.port_mbit), rate(expected.device_mbit))}`}
        {expected.least_v != null && `, ${w.powered(exact(expected.watts), exact(expected.least_v))}`}
      </p>
      {run.diagnoses.map((one) => (
        <p key={one.key + one.text} className={one.weight}>
          <b>{one.text}</b> {one.do}
        </p>
      ))}
      {run.test_id != null && run.missing.length > 0 && <p>{w.missing(run.missing.join(", "))}</p>}
      {run.verdict === "passed" && run.diagnoses.length === 0 && <p className="fine">{w.fine}</p>}
      <Measure key={`${run.drop_id} ${tests.length}`} run={run} />
      {tests.length > 0 && (
        <section aria-label={w.tests}>
          <Heading>
            <h2>{w.tests}</h2>
          </Heading>
          <ul>
            {tests.toReversed().map((test) => (
              <li key={test.id}>
                <span>{(test.at ?? "").slice(0, 16).replace("T", " ")}</span>
                <Stitches pins={test.pins} />
                <span>{test.by || test.tester}</span>
                <button
                  type="button"
                  aria-label={w.removeTest(test.at ?? "")}
                  onClick={() => edit({ type: "remove_entry", list: "run_tests", id: test.id })}
                >
                  ×
                </button>
              </li>
            ))}
          </ul>
          {last && (
            <PhotoRow photos={last.photos ?? []} set={(photos) => edit(changeIn("run_tests", last.id, { photos }))} />
          )}
        </section>
      )}
    </Sheet>
  );
}

function Measure({ run }: { run: TestedRun }) {
  const { outcome, edit } = useWork();
  const last = outcome.project.run_tests?.at(-1);
  const [pins, setPins] = useState<number[] | null>(null);
  const [chosen, choose] = useState<number | null>(null);
  const [typed, setTyped] = useState<Record<Figure, string>>(NOTHING);
  const [link, setLink] = useState<number | null>(null);
  const [split, setSplit] = useState<keyof typeof w.splitOf>("");
  const [from, setFrom] = useState<"closet" | "place">("closet");
  const [by, setBy] = useState(last?.by ?? "");
  const [note, setNote] = useState("");
  const figures = FIGURES.filter((key) => run.expected.powered || (key !== "poe_v" && key !== "poe_w"));
  const save = () => {
    const values: Values<"run_tests"> = { drop_id: run.drop_id, at: clock(), by, note, from_place: from === "place" };
    for (const key of figures) if (typed[key].trim()) values[key] = typedFigure(typed[key]);
    if (pins) values.pins = pins;
    if (link != null) values.speed_mbit = link;
    if (split) values.split = [split.split("-").map(Number)];
    return edit(addTo("run_tests", values));
  };
  return (
    <section aria-label={w.measured}>
      <Heading>
        <h2>{w.measured}</h2>
        <span>{said(pins)}</span>
      </Heading>
      <p>{w.mapHow}</p>
      <p className="acts">
        <Word onPress={() => setPins([...STRAIGHT])}>{w.allStraight}</Word>
        <Word onPress={() => setPins(null)}>{w.clear}</Word>
      </p>
      <Stitching pins={pins} chosen={chosen} choose={choose} set={setPins} />
      <Fields>
        {figures.map((key) => (
          <label key={key}>
            <i>{LABELS[key]}</i>
            <input
              inputMode="decimal"
              value={typed[key]}
              onChange={(event) => setTyped({ ...typed, [key]: event.target.value })}
            />
            <i>{UNITS[key]}</i>
          </label>
        ))}
        <span>
          <i>{w.link}</i>
          <Chooser
            label={w.link}
            value={link == null ? null : String(link)}
            placeholder={w.unmapped}
            options={LINKS.map((mbit) => [String(mbit), mbit ? rate(mbit) : w.noLink] as const)}
            set={(next) => setLink(Number(next))}
          />
        </span>
        <span>
          <i>{w.split}</i>
          <Chooser label={w.split} value={split} options={optionsOf(w.splitOf)} set={setSplit} />
        </span>
        <span>
          <i>{w.from}</i>
          <Chooser
            label={w.from}
            value={from}
            options={[
              ["closet", w.closet],
              ["place", w.place],
            ]}
            set={setFrom}
          />
        </span>
        <label>
          <i>{w.by}</i>
          <input value={by} maxLength={200} onChange={(event) => setBy(event.target.value)} />
        </label>
        <label className="wide">
          <i>{w.note}</i>
          <input value={note} maxLength={2000} onChange={(event) => setNote(event.target.value)} />
        </label>
      </Fields>
      <p className="save">
        <Word onPress={save}>{w.save}</Word>
      </p>
    </section>
  );
}

/** A verdict as it is stamped on paper. */
export const Stamp = styled.b`
  font: 700 12.5px var(--data); text-transform: uppercase; letter-spacing: 0.06em; padding: 1px 6px; border: 1.5px solid currentColor; display: inline-block;
  color: var(--faint);
  &[data-verdict="passed"] { color: var(--moss); transform: rotate(-2deg); }
  &[data-verdict="failed"] { color: var(--clay); transform: rotate(-2deg); }
  &[data-verdict="open"] { border-style: dotted; font-weight: 500; }
`;

const Sheet = styled.section`
  display: grid; gap: 8px; align-content: start; min-width: 0;
  p { color: var(--faint); } p b { color: inherit; font-weight: 600; }
  p.breaks { color: var(--clay); } p.strains { color: var(--ochre); } p.fine { color: var(--moss); }
  .acts { display: flex; gap: 16px; }
  ul li { display: grid; grid-template-columns: 116px 64px minmax(0, 1fr) 20px; gap: 10px; align-items: center; border-bottom: 1px solid var(--rule); padding: 3px 0; }
  li button { background: none; border: 0; color: var(--clay); cursor: pointer; }
  .save button { font-size: 16px; }
  ${NARROW} { .save button { font-size: 19px; padding: 12px 0; } .acts button { padding: 9px 0; font-size: 16px; } }
`;

const Fields = styled.div`
  display: grid; grid-template-columns: 1fr 1fr; gap: 6px 18px;
  label, > span { display: flex; gap: 6px; align-items: baseline; border-bottom: 1px solid var(--rule); padding: 2px 0; min-width: 0; }
  .wide { grid-column: 1 / -1; }
  i { font-style: normal; color: var(--faint); white-space: nowrap; }
  input { background: none; border: 0; flex: 1; min-width: 0; padding: 1px; }
  input[inputmode] { text-align: right; }
  ${NARROW} { label, > span { padding: 8px 0; } input { font-size: 17px; } }
`;
