import { Link } from "react-router";
import styled from "styled-components";
import { useWork } from "../../api/work";
import { exact } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { TickedLine } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { elsewhere } from "./OrderView";
import type { Stage, Step, useTicks } from "./useOrder";

const w = words.order;

/** One step: what it is about, each ticked off on its own, with its caution and tools. */
export function StepSheet(props: { stage: Stage; step: Step; ticks: ReturnType<typeof useTicks> }) {
  const { stage, step, ticks } = props;
  const { id } = useWork();
  const there = elsewhere(stage.stage, step);
  const left = step.subjects.filter((one) => one.state !== "done");
  const keys = (some: Step["subjects"]) => some.map((one) => one.key);
  return (
    <Sheet aria-label={step.name}>
      <Heading>
        <h2>
          {stage.name}: {step.name}
        </h2>
        <span>{w.count(step.done, step.subjects.length)}</span>
      </Heading>
      <p>
        {[step.told, w.who[step.who], step.hours > 0 && w.hours(exact(Math.round(step.hours * 10) / 10))]
          .filter(Boolean)
          .join(" · ")}
      </p>
      {step.cautions.map((caution) => (
        <p key={caution} className="care">
          {caution}
        </p>
      ))}
      {step.tools.length > 0 && <p>{w.tools(step.tools.join(", "))}</p>}
      <p className="acts">
        {there && <Link to={`/projects/${id}/prove/${there}`}>{w.here[stage.stage as keyof typeof w.here]}</Link>}
        {!there && left.length > 0 && (
          <Word onPress={() => ticks.tick(stage.stage, keys(left), true)}>{w.all(left.length)}</Word>
        )}
        {!there && step.done > 0 && (
          <Word
            onPress={() => ticks.tick(stage.stage, keys(step.subjects.filter((one) => one.state === "done")), false)}
          >
            {w.open(step.done)}
          </Word>
        )}
      </p>
      <ul>
        {step.subjects.map((one) => (
          <li key={one.key} data-state={one.state}>
            {there ? (
              <span>{one.state === "done" ? "✓" : "·"}</span>
            ) : (
              <TickedLine
                label={w.one(one.name)}
                value={one.state === "done"}
                set={(value) => ticks.tick(stage.stage, [one.key], value)}
              >
                {null}
              </TickedLine>
            )}
            <b>{one.name}</b>
            <small>{[one.why, one.at?.slice(0, 16).replace("T", " "), one.by].filter(Boolean).join(" · ")}</small>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

const Sheet = styled.section`
  display: grid; gap: 6px; align-content: start; min-width: 0;
  p { color: var(--faint); } p.care { font: 14px/1.35 var(--voice); color: var(--ochre); }
  .acts { display: flex; gap: 4px 18px; flex-wrap: wrap; }
  ul { max-height: 46vh; overflow: auto; }
  li { display: grid; grid-template-columns: 26px minmax(0, 1fr) auto; gap: 2px 6px; align-items: baseline; border-bottom: 1px solid var(--rule); padding: 4px 0; }
  li b { font: 15px/1.3 var(--voice); overflow-wrap: anywhere; } li small { color: var(--faint); font-size: 12.5px; text-align: right; max-width: 190px; }
  li[data-state="again"] small { color: var(--clay); }
  li label { padding: 2px; }
  ${NARROW} {
    .acts > * { font-size: 19px; padding: 12px 0; min-height: 48px; }
    li { grid-template-columns: 40px minmax(0, 1fr); padding: 9px 0; } li label { padding: 8px 10px 8px 4px; margin: -8px 0; } li label svg { width: 19px; height: 19px; }
    li small { grid-column: 2; text-align: left; max-width: none; }
  }
`;
