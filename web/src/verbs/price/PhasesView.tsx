import { useState } from "react";
import styled from "styled-components";
import type { PhasePlan, Schemas } from "../../api/client";
import { addTo, changeIn } from "../../api/edits";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Searching } from "../../instruments/Searching";
import { AddByName } from "../../kit/AddByName";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount, Day, Text } from "../../kit/fields";
import { minorPerUnit } from "../../kit/figures";
import { small } from "../../kit/names";
import { Heading, Word } from "../../kit/parts";
import { words } from "../../words";
import { Page } from "./ledger";
import { useMoney, usePhases, useProposedPhases } from "./usePrice";

const w = words.phases;
type Phase = Schemas["Phase"];
type Drop = Schemas["Drop"];

/** Phases as strata of the ground, today on top: what each brings, buys and costs, and whether it works. */
export function PhasesView() {
  const { outcome } = useWork();
  const money = useMoney();
  const phases = outcome.project.phases ?? [];
  const { found, underway, isOld, stop, again } = usePhases(phases.length > 0);
  const reply = found?.reply;
  return (
    <Page>
      <div>
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            <span>{w.lead}</span>
          </Heading>
          {!phases.length && <p>{w.none}</p>}
          {phases.length > 0 && <Searching underway={underway} told={w.searching} stop={stop} again={again} />}
          {reply && reply.phases.length > 0 && phases.length > 0 && (
            <p>{w.boxes(money(reply.boxes_minor), reply.proven)}</p>
          )}
          {phases.length > 0 && <p>{w.dragHint}</p>}
          <Strata data-old={isOld || undefined}>
            {phases.map((phase, place) => (
              <Stratum
                key={phase.id}
                phase={phase}
                place={place}
                plan={reply?.phases.find((one) => one.phase_id === phase.id)}
              />
            ))}
          </Strata>
          <AddPhase />
          {phases.length > 1 && <Proposed />}
        </section>
      </div>
      <div>
        <Closets />
        <Kit />
        <Findings verb="price" />
      </div>
    </Page>
  );
}

/** Drops of one kind in one room: what is moved together. */
interface Some {
  name: string;
  ids: number[];
}

function useSome(phase: Phase, place: number): Some[] {
  const { outcome, kinds } = useWork();
  const { drops, rooms } = outcome.project;
  const named = new Map(rooms.map((one) => [one.id, one.name]));
  const found = new Map<string, Drop[]>();
  for (const drop of drops) {
    const mine = drop.phase_id == null ? place === 0 : drop.phase_id === phase.id;
    if (mine) {
      const key = `${drop.room_id} ${drop.kind}`;
      found.set(key, [...(found.get(key) ?? []), drop]);
    }
  }
  return [...found.values()].map((some) => {
    const kind = kinds.find((one) => one.key === some[0]?.kind);
    const word = small((some.length > 1 ? kind?.plural : kind?.name) ?? "");
    return { name: w.of(named.get(some[0]?.room_id ?? -1) ?? "", word, some.length), ids: some.map((one) => one.id) };
  });
}

function Stratum({ phase, place, plan }: { phase: Phase; place: number; plan: PhasePlan | undefined }) {
  const { outcome, edit } = useWork();
  const money = useMoney();
  const some = useSome(phase, place);
  const [over, setOver] = useState(false);
  const phases = outcome.project.phases ?? [];
  const perUnit = minorPerUnit(outcome.project.settings.currency ?? "EUR");
  const options = phases.map((one) => [String(one.id), one.name] as const);
  const move = (ids: number[], to: number) => edit({ type: "change_drops", ids, changes: { phase_id: to } });
  const set = (changes: Partial<Phase>) => edit(changeIn("phases", phase.id, changes));
  const dear = plan?.budget_minor != null ? plan.one_off_minor - plan.budget_minor : 0;
  return (
    <li
      data-over={over || undefined}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        const ids = event.dataTransfer.getData("text/plain").split(" ").map(Number).filter(Boolean);
        if (ids.length) move(ids, phase.id);
      }}
    >
      <div className="head">
        <Text label={`${w.title}: ${phase.name}`} value={phase.name} set={(name) => set({ name })} />
        <span>
          {w.begins}{" "}
          <Day label={`${w.begins}: ${phase.name}`} value={phase.begins ?? null} set={(begins) => set({ begins })} />
        </span>
        <span>
          {w.ends} <Day label={`${w.ends}: ${phase.name}`} value={phase.ends ?? null} set={(ends) => set({ ends })} />
        </span>
        <span>
          {w.budget}{" "}
          <Amount
            label={`${w.budget}: ${phase.name}`}
            value={phase.budget_minor == null ? null : phase.budget_minor / perUnit}
            set={(value) => set({ budget_minor: value ? Math.round(value * perUnit) : null })}
          />
        </span>
        <button
          type="button"
          aria-label={words.entries.remove(phase.name)}
          onClick={() => edit({ type: "remove_entry", list: "phases", id: phase.id })}
        >
          ×
        </button>
      </div>
      <ul className="drops">
        {some.map((one) => (
          <li
            key={one.name}
            draggable
            onDragStart={(event) => event.dataTransfer.setData("text/plain", one.ids.join(" "))}
          >
            <span>{one.name}</span>
            {phases.length > 1 && (
              <Choice
                label={w.moveTo(one.name)}
                value={String(phase.id)}
                options={options}
                set={(to) => move(one.ids, Number(to))}
              />
            )}
          </li>
        ))}
      </ul>
      {plan && (
        <dl>
          <dt>{w.bought}</dt>
          <dd>{plan.bought.length ? plan.bought.join(", ") : w.nothing}</dd>
          <dt>{words.price.oneOff}</dt>
          <dd>
            <b>{money(plan.one_off_minor)}</b>
            {dear > 0 && <em> {w.over(money(dear))}</em>}
            {plan.unpriced > 0 && ` ${words.price.unpriced(plan.unpriced)}`}
          </dd>
          <dt>{w.drops(plan.drops)}</dt>
          <dd>
            {plan.breaks.length ? <em>{w.breaks}</em> : w.works}
            {plan.moved > 0 && ` ${w.moved(plan.moved)}.`}
            {plan.breaks_anyway > 0 && ` ${w.anyway(plan.breaks_anyway)}.`}
            {plan.breaks.map((text) => (
              <p key={text}>{text}</p>
            ))}
          </dd>
          {(plan.measures.length > 0 || plan.displaced.length > 0) && (
            <>
              <dt>{w.ending}</dt>
              <dd>
                {[
                  ...plan.measures.map((one) => `${one.name}${w.owner(one.who)}`),
                  ...plan.displaced.map((one) => `${one.name}: ${w.where[one.goes as keyof typeof w.where]}`),
                ].join("; ")}
              </dd>
            </>
          )}
        </dl>
      )}
    </li>
  );
}

/** Which drops each budget reaches, and the phases that follow, taken with one press. */
function Proposed() {
  const { edit } = useWork();
  const [wanted, want] = useState(false);
  const { found, underway, isOld, stop, again } = useProposedPhases(wanted);
  const reply = found?.reply;
  if (!wanted)
    return (
      <p>
        <Word onPress={() => want(true)}>{w.propose}</Word>
      </p>
    );
  const take = async () => {
    const edits = (reply?.phases ?? [])
      .filter((one) => one.drop_ids.length > 0)
      .map((one) => ({ type: "change_drops" as const, ids: one.drop_ids, changes: { phase_id: one.phase_id } }));
    if (await edit(...edits)) want(false);
  };
  return (
    <Reach aria-label={w.proposeTitle} data-old={isOld || undefined}>
      <h3>{w.proposeTitle}</h3>
      <Searching underway={underway} told={w.searching} stop={stop} again={again} />
      {reply && (
        <>
          <ul>
            {reply.phases.map((one) => (
              <li key={one.phase_id}>
                <b>{one.name}</b> {w.proposed(w.drops(one.drop_ids.length), one.sentence)}
              </li>
            ))}
          </ul>
          {reply.phases.length > 0 && <p>{w.proposedHow(reply.proven)}</p>}
          {reply.why && <p className="over">{reply.why}</p>}
        </>
      )}
      <p className="acts">
        {reply && reply.phases.length > 0 && !isOld && <Word onPress={take}>{w.take}</Word>}
        <Word onPress={() => want(false)}>{w.without}</Word>
      </p>
    </Reach>
  );
}

function AddPhase() {
  const { edit } = useWork();
  return <AddByName label={w.add} add={(name) => edit(addTo("phases", { name }))} />;
}

/** The phase of every closet; of one that names none that of its first drop. */
function Closets() {
  const { outcome, edit } = useWork();
  const { closets } = outcome.project;
  const phases = outcome.project.phases ?? [];
  if (phases.length < 2) return null;
  return (
    <section aria-label={w.closets}>
      <Heading>
        <h2>{w.closets}</h2>
      </Heading>
      <ul>
        {closets.map((closet) => (
          <li key={closet.id}>
            {closet.name}{" "}
            <Choice
              label={w.moveTo(closet.name)}
              value={String(closet.phase_id ?? "")}
              options={[["", w.withDrops], ...phases.map((phase) => [String(phase.id), phase.name] as const)]}
              set={(to) => edit(changeIn("closets", closet.id, { phase_id: to ? Number(to) : null }))}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Where kit goes that is not kept, and in which phase. */
function Kit() {
  const { outcome, edit } = useWork();
  const kit = (outcome.project.kit ?? []).filter((one) => one.fate !== "kept");
  const phases = outcome.project.phases ?? [];
  if (!kit.length) return null;
  return (
    <section aria-label={w.goes}>
      <Heading>
        <h2>{w.goes}</h2>
      </Heading>
      <ul>
        {kit.map((one) => (
          <li key={one.id}>
            {one.name}{" "}
            {phases.length > 0 && (
              <Choice
                label={w.moveTo(one.name)}
                value={phases.find((phase) => phase.name.toLowerCase() === (one.phase ?? "").toLowerCase())?.name ?? ""}
                options={[["", w.unset], ...phases.map((phase) => [phase.name, phase.name] as const)]}
                set={(phase) => edit(changeIn("kit", one.id, { phase }))}
              />
            )}{" "}
            <Choice
              label={`${w.goes}: ${one.name}`}
              value={one.goes ?? ""}
              options={optionsOf(w.where)}
              set={(goes) => edit(changeIn("kit", one.id, { goes }))}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}

const Reach = styled.section`
  margin-top: 14px; padding: 8px 12px; border-left: 3px solid var(--ink);
  h3 { margin: 0; font: 600 16px var(--voice); }
  p { color: var(--faint); } p.over { color: var(--clay); }
  &[data-old] ul { opacity: 0.6; }
`;

const Strata = styled.ol`
  border-top: 3px solid var(--ink); margin-top: 6px;
  &[data-old] dl { opacity: 0.6; }
  > li { padding: 8px 12px 12px; border-bottom: 1px dashed var(--ink); background: var(--sheet); }
  > li:nth-child(2n) { background: color-mix(in srgb, var(--earth) 45%, var(--sheet)); }
  > li:nth-child(3n) { background: var(--earth); }
  > li[data-over] { box-shadow: inset 0 0 0 2px var(--clay); }
  .head { display: flex; gap: 4px 18px; align-items: baseline; flex-wrap: wrap; color: var(--faint); }
  .head > span { display: inline-flex; gap: 5px; align-items: baseline; }
  .head > input { font: 600 17px var(--voice); color: var(--ink); width: 20ch; }
  .head > button { margin-left: auto; background: none; border: 0; color: var(--clay); cursor: pointer; font-size: 15px; }
  input { background: none; border: 0; border-bottom: 1px dotted var(--faint); border-radius: 0; padding: 0 1px; }
  input.r { width: 9ch; text-align: right; }
  .drops { display: flex; flex-wrap: wrap; gap: 3px 16px; padding: 6px 0; }
  .drops li { cursor: grab; border-bottom: 1px solid var(--rule); display: flex; gap: 6px; align-items: baseline; }
  @media (hover: hover) {
    .drops li > :last-child:not(:only-child) { opacity: 0; }
    .drops li:hover > :last-child, .drops li > :focus-within, .drops li > :last-child:focus-visible, .drops li:focus-within > :last-child { opacity: 1; }
  }
  dl { display: grid; grid-template-columns: 96px minmax(0, 1fr); gap: 2px 12px; }
  dt { color: var(--faint); }
  dd b { font: 600 15px var(--voice); }
  em { font-style: normal; color: var(--clay); }
  dd p { color: var(--clay); font: 14px/1.35 var(--voice); }
`;
