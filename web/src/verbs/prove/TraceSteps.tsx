import { type FormEvent, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { addTo, type Row, type Values } from "../../api/edits";
import { useWork } from "../../api/work";
import { Chooser, optionsOf } from "../../kit/Choice";
import { Field, Heading, Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { clock } from "./TestSheet";
import type { Panel, TracedJack } from "./TracingView";

const w = words.tracing;
type Next = NonNullable<Schemas["PanelTold"]["next"]>;
type Step = Row<"trace_steps">;

/** The last steps, those of this panel. */
function useSteps(panel: Panel) {
  const { outcome, edit } = useWork();
  const steps = (outcome.project.trace_steps ?? []).filter((step) => step.closet_id === panel.closet_id);
  const by = steps.at(-1)?.by ?? "";
  const write = (values: Values<"trace_steps">) =>
    edit(addTo("trace_steps", { closet_id: panel.closet_id, at: clock(), by, ...values }));
  return { steps, write };
}

/** What to do next, and what it told: pressed with a thumb. */
export function NextStep({ panel, isNow }: { panel: Panel; isNow: boolean }) {
  const { outcome } = useWork();
  const { write } = useSteps(panel);
  const { next } = panel;
  const sheet = outcome.project.trace_sheets?.find((one) => one.id === panel.sheet_id);
  const name = (at: number | null | undefined) => (at == null ? "" : (panel.positions[at - 1] ?? ""));
  const jack = panel.jacks.find((one) => one.id === next?.jack_id)?.name ?? "";
  return (
    <Now aria-label={w.next} aria-busy={!isNow}>
      <h2>{w.next}</h2>
      {panel.problem && <p className="breaks">{panel.problem}</p>}
      {!next && !panel.problem && <p>{panel.left ? w.nothing : w.done}</p>}
      {next && <p>{told(next, jack, name, sheet?.reads_table ?? false)}</p>}
      {next && isNow && <Answers next={next} panel={panel} write={write} />}
    </Now>
  );
}

function told(next: Next, jack: string, name: (at: number | null | undefined) => string, table: boolean): string {
  if (next.kind === "cords") return w.cords(next.positions.map(name).join(", "));
  if (next.kind === "sweep") return w.sweep(jack);
  if (next.kind === "pair") return w.pair(jack, name(next.position));
  if (next.kind === "link") return table ? w.table(jack) : w.light(jack);
  return next.kind === "known" ? "" : w.put[next.kind](jack);
}

function Answers(props: { next: Next; panel: Panel; write: (values: Values<"trace_steps">) => Promise<boolean> }) {
  const { next, panel, write } = props;
  const { outcome } = useWork();
  const about = { kind: next.kind, jack_id: next.jack_id };
  const press = (text: string, values: Values<"trace_steps">) => (
    <Word key={text} onPress={() => write({ ...about, ...values })}>
      {text}
    </Word>
  );
  const positions = (some: readonly number[], none: string) => (
    <span className="many">
      {some.map((at) => press(panel.positions[at - 1] ?? "", { position: at }))}
      {press(none, { position: null })}
    </span>
  );
  if (next.kind === "sweep") {
    const empty = outcome.project.trace_sheets?.find((one) => one.id === panel.sheet_id)?.empty ?? [];
    const wired = panel.positions.map((_, place) => place + 1).filter((at) => !empty.includes(at));
    return positions(wired, w.nowhere);
  }
  if (next.kind === "link") return positions(corded(outcome.project.trace_steps, panel.closet_id), w.none);
  if (next.kind === "pair") {
    return (
      <span>
        {press(w.yes, { position: next.position, found: true })}
        {press(w.no, { position: next.position, found: false })}
      </span>
    );
  }
  return <span>{press(w.isDone, next.kind === "cords" ? { positions: next.positions, jack_id: null } : {})}</span>;
}

/** Positions that have a cord to the switch now. */
function corded(steps: readonly Step[] | undefined, closet: number): readonly number[] {
  return steps?.findLast((step) => step.closet_id === closet && step.kind === "cords")?.positions ?? [];
}

type Kind = keyof typeof w.kinds;

/** A reading of any jack, whatever was advised. */
export function OtherReading({ panel, jack }: { panel: Panel; jack: TracedJack | undefined }) {
  const { say } = useWork();
  const { write } = useSteps(panel);
  const [kind, setKind] = useState<Kind>("yes");
  const [typed, setTyped] = useState("");
  const named = kind === "sweep" || kind === "yes" || kind === "no";
  const keep = async (event: FormEvent) => {
    event.preventDefault();
    const at = panel.positions.findIndex((name) => name.toLowerCase() === typed.trim().toLowerCase()) + 1;
    if (named && !at) return say(w.noPosition(typed));
    const values: Record<Kind, Values<"trace_steps">> = {
      sweep: { kind: "sweep", position: at },
      silent: { kind: "sweep" },
      yes: { kind: "pair", position: at, found: true },
      no: { kind: "pair", position: at, found: false },
      dead: { kind: "known" },
    };
    if (await write({ jack_id: jack?.id, ...values[kind] })) setTyped("");
  };
  return (
    <Other aria-label={w.others}>
      <Heading>
        <h2>{w.others}</h2>
      </Heading>
      {!jack && <p>{w.press}</p>}
      {jack && (
        <form onSubmit={keep}>
          <b>{jack.name}</b>
          <Chooser label={w.kind} value={kind} options={optionsOf(w.kinds)} set={setKind} />
          {named && (
            <Field
              aria-label={w.position}
              placeholder={w.position}
              size={6}
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
            />
          )}
          <Word type="submit">{w.write}</Word>
          <small>{jack.readings.join("; ") || w.unread}</small>
        </form>
      )}
    </Other>
  );
}

const SHOWN = 6;

/** The last steps; each can be taken back. */
export function Steps({ panel }: { panel: Panel }) {
  const { edit } = useWork();
  const { steps } = useSteps(panel);
  const names = new Map(panel.jacks.map((jack) => [jack.id, jack.name]));
  if (!steps.length) return null;
  const name = (at: number | null | undefined) => (at == null ? "" : (panel.positions[at - 1] ?? ""));
  const text = (step: Step) => {
    const jack = names.get(step.jack_id ?? 0) ?? "";
    if (step.kind === "cords") return w.did.cords(step.positions.map(name).join(", "));
    if (step.kind === "pair") return w.did[step.found ? "yes" : "no"](jack, name(step.position));
    return w.did[step.kind](jack, name(step.position));
  };
  return (
    <Other aria-label={w.steps}>
      <Heading>
        <h2>{w.steps}</h2>
      </Heading>
      <ul>
        {steps
          .slice(-SHOWN)
          .toReversed()
          .map((step) => (
            <li key={step.id}>
              <small>{(step.at ?? "").slice(11, 16)}</small>
              <span>{text(step)}</span>
              <button
                type="button"
                aria-label={w.removeStep(text(step))}
                onClick={() => edit({ type: "remove_entry", list: "trace_steps", id: step.id })}
              >
                ×
              </button>
            </li>
          ))}
      </ul>
    </Other>
  );
}

const Now = styled.section`
  border-top: 2px solid var(--clay); padding-top: 6px; display: grid; gap: 10px;
  p { font: 18px/1.35 var(--voice); } p.breaks { color: var(--clay); }
  > span { display: flex; gap: 8px 20px; flex-wrap: wrap; }
  > span button { font-size: 16px; }
  .many { gap: 6px; } .many button { border: 1px solid var(--rule); padding: 3px 8px; text-decoration: none; color: var(--ink); min-width: 38px; text-align: center; }
  ${NARROW} {
    > span button { font-size: 20px; padding: 13px 0; min-height: 48px; }
    .many button { min-width: 60px; padding: 10px; }
  }
`;
const Other = styled.section`
  display: grid; gap: 6px;
  form { display: flex; gap: 6px 14px; flex-wrap: wrap; align-items: baseline; } form b { width: 100%; font-weight: 600; }
  form small, > p { color: var(--faint); width: 100%; }
  li { display: grid; grid-template-columns: 44px minmax(0, 1fr) 20px; gap: 8px; padding: 3px 0; border-bottom: 1px solid var(--rule); align-items: baseline; }
  li small { color: var(--faint); } li button { background: none; border: 0; color: var(--clay); cursor: pointer; }
  ${NARROW} { li { padding: 9px 0; } }
`;
