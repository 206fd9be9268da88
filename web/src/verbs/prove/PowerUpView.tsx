import { useEffect, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useWork } from "../../api/work";
import { SheetWord } from "../../instruments/SheetWord";
import { Chooser, optionsOf } from "../../kit/Choice";
import { exact, figure } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { useBegan } from "../../kit/useBegan";
import { words } from "../../words";
import { usePowerUp, useTicks } from "./useOrder";

const w = words.powerUp;
type Step = Schemas["PowerStep"];

/** Everything comes up in its order, each seen to work before the next. */
export function PowerUpView() {
  const { outcome, edit } = useWork();
  const told = usePowerUp();
  const { tick } = useTicks();
  if (!told) return null;
  const up = new Map(
    (outcome.project.ticks ?? [])
      .filter((row) => row.stage === "power_up")
      .flatMap((row) => row.subjects.map((subject) => [subject, row] as const)),
  );
  const now = told.steps.find((step) => !up.has(step.subject));
  const done = told.steps.filter((step) => up.has(step.subject)).length;
  return (
    <Page>
      <div className="now">
        {told.wrong.length > 0 && (
          <Wrong aria-label={w.wrong}>
            <h2>{w.wrong}</h2>
            {told.wrong.map((one) => (
              <p key={one.text} data-weight={one.weight}>
                {one.text} <span>{one.do}</span>
              </p>
            ))}
          </Wrong>
        )}
        {now ? (
          <NowStep key={now.subject} step={now} seen={() => tick("power_up", [now.subject], true)} />
        ) : (
          <p className="press">{w.done}</p>
        )}
        <p className="care">{w.caution}</p>
      </div>
      <div>
        <Heading>
          <h2>{w.title}</h2>
          <span>{w.sum(done, told.steps.length, figure(Math.ceil(told.minutes)))}</span>
        </Heading>
        <p className="acts">
          <Chooser
            label={w.begins}
            value={told.begins}
            options={optionsOf(w.from)}
            set={(power_up) => void edit({ type: "change_settings", changes: { power_up } })}
          />
          <SheetWord sheet="power-up" />
        </p>
        <ol>
          {told.steps.map((step) => {
            const row = up.get(step.subject);
            return (
              <li key={step.subject} data-now={step === now || undefined} data-up={row ? true : undefined}>
                <b>{step.name}</b>
                <small>{row ? w.up((row.at ?? "").slice(11, 16)) : w.wait(exact(step.wait_min))}</small>
                {row ? (
                  <button
                    type="button"
                    aria-label={w.open(step.name)}
                    onClick={() => tick("power_up", [step.subject], false)}
                  >
                    ×
                  </button>
                ) : (
                  <i />
                )}
              </li>
            );
          })}
        </ol>
      </div>
    </Page>
  );
}

/** The step that is due: switched on, waited for, and seen. */
function NowStep({ step, seen }: { step: Step; seen: () => Promise<boolean> }) {
  const { id } = useWork();
  const { began, begin, end } = useBegan(`${id} ${step.subject}`);
  const [missed, miss] = useState(false);
  const keep = async () => {
    if (await seen()) end();
  };
  return (
    <Now aria-label={w.now}>
      <small>{w.now}</small>
      <h2>{step.name}</h2>
      <p>{step.do}</p>
      {step.watts != null && step.given_w != null && step.budget_w != null && (
        <p className="watts">{w.watts(exact(step.watts), exact(step.given_w), exact(step.budget_w))}</p>
      )}
      {began === null ? (
        <span>
          <Word onPress={begin}>{w.on}</Word>
          <small>{w.wait(exact(step.wait_min))}</small>
        </span>
      ) : (
        <>
          <Wait began={began} minutes={step.wait_min} />
          <p>{step.seen}</p>
          <span>
            <Word onPress={keep}>{w.seen}</Word>
            <Word onPress={() => miss(true)}>{w.notSeen}</Word>
          </span>
          {missed && <p className="breaks">{w.look(step.otherwise)}</p>}
        </>
      )}
    </Now>
  );
}

function Wait({ began, minutes }: { began: number; minutes: number }) {
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    const ticking = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(ticking);
  }, []);
  const left = Math.round(minutes * 60 - Math.max(0, now - began) / 1000);
  const shown = `${Math.floor(Math.abs(left) / 60)}:${String(Math.abs(left) % 60).padStart(2, "0")}`;
  return (
    <b role="timer" data-over={left < 0 || undefined}>
      {left < 0 ? w.over(shown) : w.left(shown)}
    </b>
  );
}

const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 420px; gap: 34px; padding: 10px 16px 20px;
  > div { display: grid; gap: 14px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  .acts { display: flex; gap: 4px 18px; flex-wrap: wrap; align-items: baseline; }
  .press { font: 18px/1.4 var(--voice); } .care { font: 14px/1.35 var(--voice); color: var(--ochre); max-width: 60ch; }
  li { display: grid; grid-template-columns: minmax(0, 1fr) auto 20px; gap: 10px; align-items: baseline; border-bottom: 1px solid var(--rule); padding: 4px 6px; }
  li b { font: 15px/1.3 var(--voice); } li small { color: var(--faint); font-size: 12.5px; }
  li[data-up] b { color: var(--faint); } li[data-now] { background: var(--earth); } li[data-now] b { font-weight: 600; }
  li button { background: none; border: 0; color: var(--clay); cursor: pointer; }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); gap: 20px; li { padding: 9px 6px; } }
`;
const Wrong = styled.section`
  border-left: 3px solid var(--clay); padding: 2px 0 4px 12px; display: grid; gap: 4px; max-width: 74ch;
  h2 { color: var(--clay); } p { font: 15px/1.35 var(--voice); } span { color: var(--faint); }
`;
const Now = styled.section`
  border-top: 2px solid var(--clay); padding-top: 8px; display: grid; gap: 10px; justify-items: start; max-width: 60ch;
  > small, span small { color: var(--faint); } h2 { font: 600 22px/1.2 var(--voice); }
  p { font: 18px/1.35 var(--voice); } p.watts { font: 13.5px var(--data); color: var(--faint); } p.breaks { color: var(--clay); font-size: 16px; }
  span { display: flex; gap: 8px 26px; align-items: baseline; flex-wrap: wrap; } span button { font-size: 18px; }
  b[role="timer"] { font: 600 26px var(--data); } b[data-over] { color: var(--clay); }
  ${NARROW} { span button { font-size: 22px; padding: 13px 0; min-height: 50px; } }
`;
