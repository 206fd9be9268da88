import { useState } from "react";
import styled from "styled-components";
import { addTo, changeIn } from "../../api/edits";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Choice, Chooser, optionsOf } from "../../kit/Choice";
import { Amount, Text } from "../../kit/fields";
import { exact, figure, money } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { CoverPage } from "../cover/page";
import { Care } from "./ClosetView";
import { useCloset, useProposals, useStack } from "./useStack";

const w = words.cut;
const FOR_EVER = 90_000;

/** What lives on when mains goes off: every service with its way, the drill minute by minute, the least UPS. */
export function CutView() {
  const { outcome, edit } = useWork();
  const stack = useStack();
  const { closet, pick } = useCloset(stack);
  const { project } = outcome;
  if (!stack || !closet) return null;
  const drops = project.drops.map((drop) => {
    const room = project.rooms.find((one) => one.id === drop.room_id)?.name ?? "";
    return [String(drop.id), drop.label || `${drop.kind.replace("_", " ")}, ${room}`] as const;
  });
  const first = project.drops[0];
  const lines = project.lifelines ?? [];
  const cell = stack.power_cut.cells.find((one) => one.closet_id === closet.id);
  const { wanted_min: goal, least_min: least } = stack.power_cut;
  const told = (minutes: number) => (minutes > FOR_EVER ? w.forEver : w.lives(figure(minutes)));
  return (
    <CoverPage>
      <div>
        <section aria-label={w.services}>
          <Heading>
            <h2>{w.services}</h2>
            <span>{w.lead}</span>
          </Heading>
          {goal != null && least != null && (
            <Goal data-met={least >= goal}>
              {w.goal(exact(goal), least >= goal ? w.goalMet(told(least)) : w.goalShort(told(least)))}
            </Goal>
          )}
          <Services>
            {lines.map((line) => {
              const life = stack.power_cut.lives.find((one) => one.lifeline_id === line.id);
              const set = (values: Partial<typeof line>) => edit(changeIn("lifelines", line.id, values));
              return (
                <li key={line.id} data-met={life?.met ?? undefined}>
                  <Text label={words.thing.name} value={line.name} set={(name) => set({ name })} />
                  <span>
                    <Choice
                      label={`${w.device}, ${line.name}`}
                      value={String(line.drop_id)}
                      options={drops}
                      set={(drop) => set({ drop_id: Number(drop) })}
                    />{" "}
                    {w.to}{" "}
                    <Choice
                      label={`${w.to}, ${line.name}`}
                      value={line.reaches ?? "internet"}
                      options={optionsOf(w.reaches)}
                      set={(reaches) => set({ reaches })}
                    />{" "}
                    {w.for}{" "}
                    <Amount
                      label={`${w.minutes}, ${line.name}`}
                      value={line.minutes ?? null}
                      usual={stack.power_cut.wanted_min ?? undefined}
                      least={0.1}
                      set={(minutes) => set({ minutes })}
                    />{" "}
                    {w.minutes}
                  </span>
                  {life && (
                    <em>{life.cut || `${told(life.minutes)}, ${life.met ? w.met : w.dies(life.dies_first)}`}</em>
                  )}
                  <i>{life?.path.join(" – ")}</i>
                  <Word onPress={() => edit({ type: "remove_entry", list: "lifelines", id: line.id })}>
                    {words.thing.remove}
                  </Word>
                </li>
              );
            })}
          </Services>
          {first && (
            <Word
              onPress={() =>
                edit(
                  addTo("lifelines", {
                    name: `${w.device} ${lines.length + 1}`,
                    drop_id: first.id,
                    reaches: "internet",
                  }),
                )
              }
            >
              {w.add}
            </Word>
          )}
        </section>
        <section aria-label={w.drill}>
          <Heading>
            <h2>{w.drill}</h2>
            {project.closets.length > 1 && (
              <Chooser
                label={words.stack.closet}
                value={String(closet.id)}
                options={project.closets.map((one) => [String(one.id), one.name] as const)}
                set={(next) => pick(Number(next))}
              />
            )}
          </Heading>
          <Low>
            {w.shedLow}{" "}
            <Amount
              label={w.shedLow}
              value={closet.shed_low_percent ?? null}
              least={0.1}
              most={99.9}
              set={(shed_low_percent) => edit(changeIn("closets", closet.id, { shed_low_percent }))}
            />{" "}
            {words.thing.shedWhy}
          </Low>
          {cell ? <Drill key={closet.id} cell={cell} /> : <p>{w.noDrill}</p>}
          <Ups closet={closet.id} />
          <Care>{w.caution}</Care>
        </section>
      </div>
      <div>
        <Findings verb="stack" />
      </div>
    </CoverPage>
  );
}

type Cell = NonNullable<ReturnType<typeof useStack>>["power_cut"]["cells"][number];

/** The drill of a closet, stepped from one thing that happens to the next. */
function Drill({ cell }: { cell: Cell }) {
  const [step, setStep] = useState(0);
  const last = cell.events.length - 1;
  const now = cell.events[Math.min(step, last)];
  const end = cell.events[last]?.minute || 1;
  return (
    <div>
      <p>{w.cell(cell.ups.join(", "), figure(cell.load_w), figure(cell.va), figure(cell.fill_percent))}</p>
      <p>
        {w.lasts(figure(cell.minutes), figure(cell.new_minutes), figure(cell.low_minutes), figure(cell.high_minutes))}
      </p>
      <Timeline viewBox="0 0 1000 60" preserveAspectRatio="none" aria-hidden="true">
        <line x1="0" x2="1000" y1="50" y2="50" />
        <polyline
          points={cell.events
            .map((event) => `${(event.minute / end) * 1000},${50 - event.left_percent * 0.45}`)
            .join(" ")}
        />
        {now && <line className="now" x1={(now.minute / end) * 1000} x2={(now.minute / end) * 1000} y1="0" y2="60" />}
      </Timeline>
      <Steps>
        {cell.events.map((event, place) => (
          <li
            key={`${event.minute} ${event.text}`}
            data-now={place === step || undefined}
            data-past={place < step || undefined}
          >
            <b>{w.at(figure(event.minute))}</b>
            <span>{event.text}</span>
            <i>{w.load(figure(event.load_w))}</i>
            <i>{w.left(figure(event.left_percent))}</i>
          </li>
        ))}
      </Steps>
      <Acts>
        <Word isDisabled={step === 0} onPress={() => setStep(step - 1)}>
          {w.back}
        </Word>
        <Word isDisabled={step >= last} onPress={() => setStep(step + 1)}>
          {w.next}
        </Word>
      </Acts>
    </div>
  );
}

/** Every UPS of the price lists for this closet; the cheapest that fits is put there with one press. */
function Ups({ closet }: { closet: number }) {
  const { outcome, edit } = useWork();
  const { found, isOld } = useProposals();
  const ups = found?.reply?.closets.find((one) => one.closet_id === closet)?.ups;
  const currency = outcome.project.settings.currency ?? "EUR";
  if (!ups?.lines.length) return null;
  return (
    <section aria-label={w.ups("")}>
      <Heading>
        <h2>{w.ups(exact(ups.wanted_min))}</h2>
        <span>{`${figure(ups.load_w)} W, ${figure(ups.va)} VA`}</span>
      </Heading>
      <Lines data-old={isOld || undefined}>
        {ups.lines.map((line) => (
          <li key={line.model} data-met={line.fits || undefined}>
            <b>{line.name}</b>
            <span>{money(line.price_minor, currency)}</span>
            <i>{line.fits ? `${w.fits}, ${w.lives(figure(line.minutes))}` : line.text}</i>
            {line.model === ups.best && (
              <Word
                isDisabled={isOld}
                onPress={() => edit(addTo("gear", { closet_id: closet, kind: "ups", model: line.model }))}
              >
                {w.takes}
              </Word>
            )}
          </li>
        ))}
      </Lines>
    </section>
  );
}

const Low = styled.p`
  input { width: 5ch; text-align: right; background: none; border: 0; border-bottom: 1px dotted var(--faint); }
`;
const Goal = styled.p`
  padding: 5px 0; border-top: 1px solid var(--ink); font-weight: 550; color: var(--moss);
  &[data-met="false"] { color: var(--clay); }
`;
const Services = styled.ul`
  border-top: 1px solid var(--ink);
  li {
    display: grid; grid-template-columns: minmax(0, 136px) minmax(0, 1.35fr) minmax(0, 1fr) auto; gap: 2px 14px; padding: 5px 0;
    border-bottom: 1px solid var(--rule); align-items: baseline;
  }
  em { font-style: normal; color: var(--ink); }
  li[data-met="true"] em { color: var(--moss); }
  li[data-met="false"] em { color: var(--clay); }
  i { grid-column: 2 / 4; grid-row: 2; font-style: normal; color: var(--faint); font-stretch: 88%; }
  input { background: none; border: 0; border-bottom: 1px dotted var(--faint); }
  span input { width: 5ch; text-align: right; }
  > li > input { font-weight: 550; min-width: 0; width: 100%; }
  ${NARROW} { li { grid-template-columns: minmax(0, 1fr); } i { grid-column: 1; grid-row: auto; } }
`;
const Timeline = styled.svg`
  width: 100%; height: 60px; display: block; margin: 6px 0;
  line { stroke: var(--rule); vector-effect: non-scaling-stroke; }
  polyline { fill: none; stroke: var(--ink); stroke-width: 2; vector-effect: non-scaling-stroke; }
  .now { stroke: var(--clay); stroke-width: 2; }
`;
const Steps = styled.ol`
  border-top: 1px solid var(--ink);
  li { display: grid; grid-template-columns: 92px minmax(0, 1fr) 80px 80px; gap: 12px; padding: 3px 2px; border-bottom: 1px solid var(--rule); }
  li[data-now] { background: var(--earth); }
  li[data-past] { color: var(--faint); }
  i { font-style: normal; color: var(--faint); text-align: right; }
  b { font-weight: 550; }
`;
const Lines = styled.ul`
  border-top: 1px solid var(--ink);
  &[data-old] { opacity: 0.6; }
  li { display: grid; grid-template-columns: minmax(0, 1fr) 90px minmax(0, 1.4fr) auto; gap: 12px; padding: 3px 0; border-bottom: 1px solid var(--rule); }
  b { font-weight: 550; }
  span { text-align: right; }
  i { font-style: normal; color: var(--faint); }
  li[data-met] i { color: var(--moss); }
  ${NARROW} { li { grid-template-columns: minmax(0, 1fr) auto; } }
`;
const Acts = styled.p`display: flex; gap: 16px; padding: 6px 0;`;
