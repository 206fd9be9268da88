import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { useWork } from "../../api/work";
import { SheetWord } from "../../instruments/SheetWord";
import { Chooser } from "../../kit/Choice";
import { exact } from "../../kit/figures";
import { Field, Heading } from "../../kit/parts";
import { TickedLine } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { HoursPlot } from "./HoursPlot";
import { StepSheet } from "./StepSheet";
import { type Stage, type Step, useOrder, useTicks } from "./useOrder";

const w = words.order;
/** Stages whose steps are written down in a view of their own. */
const ELSEWHERE = { bench: "bench", test: "runs", power_up: "power-up" } as const;
/** The view in which a step is written down; nothing: it is ticked here, as links between closets are. */
export const elsewhere = (stage: string, step: Step) =>
  step.subjects[0]?.key.startsWith("link/") ? undefined : ELSEWHERE[stage as keyof typeof ELSEWHERE];
type Ticks = ReturnType<typeof useTicks>;

/** What is done until the network stands, stage by stage, ticked with a thumb. */
export function OrderView() {
  const { id } = useWork();
  const told = useOrder();
  const ticks = useTicks();
  const [asked, askPhase] = useState<string | null>(null);
  const [opened, open] = useState<string | null>(null);
  const [chosen, choose] = useState<string | null>(null);
  if (!told) return null;
  const begun = told.phases.findIndex((phase) => phase.done < phase.total);
  const place = asked === null ? Math.max(0, begun) : Number(asked);
  const phase = told.phases[place];
  if (!phase) return null;
  const steps = new Map(
    phase.stages.flatMap((stage) => stage.steps.map((step) => [step.key, { stage, step }] as const)),
  );
  const next = phase.next.map((key) => steps.get(key)).filter((one) => one !== undefined);
  const shown = opened ?? next[0]?.stage.stage;
  const one = (chosen ? steps.get(chosen) : undefined) ?? next[0];
  return (
    <Page>
      <div>
        <Heading>
          <h2>{w.title}</h2>
          <span>{w.sum(told.done, told.total, told.again)}</span>
        </Heading>
        <p className="acts">
          {told.phases.length > 1 && (
            <Chooser
              label={w.phase}
              value={String(place)}
              options={told.phases.map((row, at) => [String(at), row.name] as const)}
              set={askPhase}
            />
          )}
          <SheetWord sheet="order" />
          <a href={`/api/projects/${id}/prove/order.csv`}>{words.prove.csv}</a>
          <a href={`/api/projects/${id}/prove/order.xlsx`}>{words.prove.xlsx}</a>
          <Field
            aria-label={w.by}
            placeholder={w.by}
            size={14}
            value={ticks.by}
            onChange={(event) => ticks.setBy(event.target.value)}
          />
        </p>
        <Next aria-label={w.next}>
          <h2>{w.next}</h2>
          {next.length === 0 && <p>{phase.done === phase.total ? w.nothing : w.waits}</p>}
          {next.map(({ stage, step }) => (
            <StepLine key={step.key} {...{ stage, step, ticks, choose }} chosen={chosen} named />
          ))}
        </Next>
        <div>
          {phase.stages.map((stage) => (
            <StageOf
              key={stage.stage}
              {...{ stage, ticks, chosen, choose }}
              isOpen={stage.stage === shown}
              toggle={() => open(stage.stage === shown ? "" : stage.stage)}
            />
          ))}
        </div>
      </div>
      <div data-open={chosen ? true : undefined}>
        {one ? <StepSheet {...one} ticks={ticks} /> : <p className="press">{w.press}</p>}
        <HoursPlot />
      </div>
    </Page>
  );
}

function StageOf(props: {
  stage: Stage;
  ticks: Ticks;
  chosen: string | null;
  choose: (key: string) => void;
  isOpen: boolean;
  toggle: () => void;
}) {
  const { stage, ticks, chosen, choose, isOpen, toggle } = props;
  return (
    <Part aria-label={stage.name} data-done={stage.done === stage.total || undefined}>
      <h2>
        <button type="button" aria-expanded={isOpen} onClick={toggle}>
          <span>{stage.name}</span>
          <i style={{ ["--share" as string]: stage.total ? stage.done / stage.total : 1 }} />
          <small>{stage.hours > 0 && w.hours(exact(Math.round(stage.hours * 10) / 10))}</small>
          <small>{w.count(stage.done, stage.total)}</small>
        </button>
      </h2>
      {isOpen && (
        <>
          <p>{stage.do}</p>
          {stage.caution && <p className="care">{stage.caution}</p>}
          {stage.tools.length > 0 && <p>{w.tools(stage.tools.join(", "))}</p>}
          {stage.steps.map((step) => (
            <StepLine key={step.key} {...{ stage, step, ticks, choose, chosen }} />
          ))}
        </>
      )}
    </Part>
  );
}

function StepLine(props: {
  stage: Stage;
  step: Step;
  ticks: Ticks;
  chosen: string | null;
  choose: (key: string) => void;
  /** With the name of its stage. */
  named?: boolean;
}) {
  const { stage, step, ticks, chosen, choose, named } = props;
  const { id } = useWork();
  const there = elsewhere(stage.stage, step);
  const isDone = step.state === "done";
  const subjects = step.subjects.filter((one) => (one.state === "done") === isDone).map((one) => one.key);
  return (
    <Line data-chosen={step.key === chosen || undefined} data-state={step.state}>
      {there ? (
        <Link to={`/projects/${id}/prove/${there}`} aria-label={`${stage.name}: ${words.prove.view[there]}`}>
          {isDone ? "✓" : "→"}
        </Link>
      ) : (
        <TickedLine
          label={w.tick(stage.name, step.name)}
          value={isDone}
          set={(value) => ticks.tick(stage.stage, subjects, value)}
        >
          {null}
        </TickedLine>
      )}
      <button type="button" onClick={() => choose(step.key)}>
        {named && <b>{stage.name}: </b>}
        {step.name} <small>{step.told}</small>
      </button>
      <span>
        {step.state === "again" && <em>{w.again}</em>}
        {step.state !== "done" && step.waits_for.length > 0 && (
          <small>{w.waitsFor(step.waits_for.join(", ").toLowerCase())}</small>
        )}
        {step.done > 0 && step.state !== "done" && <small>{w.count(step.done, step.subjects.length)}</small>}
        {step.who !== "installer" && <small>{w.who[step.who]}</small>}
      </span>
    </Line>
  );
}

const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 372px; gap: 26px; padding: 10px 16px 20px;
  > div { display: grid; gap: 12px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  .acts { display: flex; gap: 4px 18px; flex-wrap: wrap; align-items: baseline; }
  .press { color: var(--faint); }
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
    > div:last-child { display: contents; > :last-child { order: 1; } }
    > div[data-open] > :first-child { order: -1; }
  }
`;
const Next = styled.section`
  border-top: 2px solid var(--clay); padding-top: 6px; display: grid;
  h2 { padding-bottom: 2px; } p { font: 16px/1.4 var(--voice); color: var(--faint); }
`;
const Part = styled.section`
  display: grid; border-top: 1px solid var(--ink); padding: 3px 0 5px; min-width: 0;
  h2 button {
    all: unset; box-sizing: border-box; width: 100%; cursor: pointer; padding: 4px 0; display: grid; gap: 12px; align-items: baseline;
    grid-template-columns: 150px minmax(40px, 1fr) 62px 66px;
  }
  h2 button:focus-visible { outline: 2px solid var(--clay); }
  h2 button:hover span { text-decoration: underline; text-underline-offset: 3px; }
  h2 small { color: var(--faint); font-weight: 450; text-align: right; white-space: nowrap; }
  i { height: 4px; align-self: center; background: linear-gradient(var(--moss), var(--moss)) left / calc(var(--share) * 100%) 100% no-repeat var(--earth); }
  &[data-done] h2 span { color: var(--faint); }
  p { color: var(--faint); padding: 1px 0; max-width: 74ch; } p.care { font: 14px/1.35 var(--voice); color: var(--ochre); }
  ${NARROW} { h2 button { grid-template-columns: 110px minmax(20px, 1fr) 48px 62px; padding: 11px 0; } }
`;
const Line = styled.div`
  display: grid; grid-template-columns: 30px minmax(0, 1fr) auto; align-items: baseline; border-bottom: 1px solid var(--rule); padding: 5px 0;
  &[data-chosen] { background: var(--earth); }
  > label { display: inline-flex; padding: 2px 6px 2px 2px; align-self: center; }
  > a { text-decoration: none; padding-left: 1px; font-weight: 600; }
  > button { all: unset; cursor: pointer; font: 16px/1.3 var(--voice); min-width: 0; overflow-wrap: anywhere; }
  > button:focus-visible { outline: 2px solid var(--clay); }
  > button b { font: 600 13.5px/1.3 var(--data); }
  small { font: 12.5px/1.3 var(--data); color: var(--faint); }
  &[data-state="done"] > button { color: var(--faint); }
  > span { display: flex; gap: 4px 12px; flex-wrap: wrap; justify-content: flex-end; max-width: 260px; text-align: right; }
  em { font: 600 12.5px/1.3 var(--data); color: var(--clay); }
  ${NARROW} {
    grid-template-columns: 46px minmax(0, 1fr); padding: 9px 0;
    > label { padding: 13px 16px 13px 4px; margin: -8px 0; } > label svg { width: 19px; height: 19px; }
    > a { font-size: 20px; padding: 8px 12px; margin: -8px 0; }
    > span { grid-column: 2; justify-content: flex-start; text-align: left; max-width: none; }
  }
`;
