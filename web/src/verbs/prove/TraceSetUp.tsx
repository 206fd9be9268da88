import { useState } from "react";
import styled from "styled-components";
import { addTo, changeIn, type Edit, type Values } from "../../api/edits";
import { useWork } from "../../api/work";
import { AddByName } from "../../kit/AddByName";
import { Choice, Chooser, optionsOf } from "../../kit/Choice";
import { Amount, Text } from "../../kit/fields";
import { Heading, Word } from "../../kit/parts";
import { Tick } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import type { Panel } from "./TracingView";

const w = words.tracing;
const NO_ROOM = "none";
const TOOLS = [
  ["toner", w.toner],
  ["tester", w.tester],
  ["one_instrument", w.oneInstrument],
  ["laptop", w.laptop],
  ["reads_table", w.readsTable],
] as const;

/** What is at hand, how the panel is, and its jacks. */
export function TraceSetUp({ panel }: { panel: Panel }) {
  const { outcome, edit, say } = useWork();
  const sheet = outcome.project.trace_sheets?.find((one) => one.id === panel.sheet_id);
  if (!sheet) return null;
  const set = (changes: Values<"trace_sheets">) => edit(changeIn("trace_sheets", sheet.id, changes));
  const setEmpty = (text: string) => {
    const empty = positionsOf(text);
    if (empty) return set({ empty });
    say(w.notPositions(text));
    return Promise.resolve(false);
  };
  return (
    <SetUp>
      <section aria-label={w.hand}>
        <Heading>
          <h2>{w.hand}</h2>
        </Heading>
        {TOOLS.map(([key, text]) => (
          <Tick key={key} value={sheet[key]} set={(value) => set({ [key]: value })}>
            {text}
          </Tick>
        ))}
        <span>
          <Amount label={w.cordCount} value={sheet.cords} set={(value) => set({ cords: value ?? 0 })} /> {w.cordCount}
        </span>
        <Tick value={sheet.people === 2} set={(value) => set({ people: value ? 2 : 1 })}>
          {w.two}
        </Tick>
        <Tick value={sheet.accept < 1} set={(value) => set({ accept: value ? 0.99 : 1 })}>
          {w.accept}
        </Tick>
      </section>
      <section aria-label={w.panel}>
        <Heading>
          <h2>{w.panel}</h2>
        </Heading>
        <Text label={w.name} placeholder={w.name} value={sheet.panel} set={(value) => set({ panel: value })} />
        <span>
          <Amount label={w.positions} value={sheet.positions} set={(value) => set({ positions: value ?? 24 })} />{" "}
          {w.positions.toLowerCase()},{" "}
          <Amount label={w.size} value={sheet.panel_size} set={(value) => set({ panel_size: value ?? 24 })} /> {w.size}
        </span>
        <div>
          <small>{w.without}</small>
          <Text label={w.without} placeholder={w.withoutHow} value={rangesOf(sheet.empty)} set={setEmpty} />
        </div>
        <Word onPress={() => edit({ type: "remove_entry", list: "trace_sheets", id: sheet.id })}>{w.end}</Word>
      </section>
      <Jacks panel={panel} />
    </SetUp>
  );
}

/** Jacks are drops of the closet, or lines of any service by name. */
function Jacks({ panel }: { panel: Panel }) {
  const { outcome, edit } = useWork();
  const [service, setService] = useState<keyof typeof w.services>("data");
  const [room, setRoom] = useState(NO_ROOM);
  const rooms = outcome.project.rooms;
  const traced = new Map((outcome.project.traced_jacks ?? []).map((jack) => [jack.id, jack]));
  const add = (values: Values<"traced_jacks">) => addTo("traced_jacks", { closet_id: panel.closet_id, ...values });
  const places = [[NO_ROOM, w.noRoom] as const, ...rooms.map((one) => [String(one.id), one.name] as const)];
  const idOf = (key: string) => (key === NO_ROOM ? null : Number(key));
  return (
    <section aria-label={w.jacks}>
      <Heading>
        <h2>{w.jacks}</h2>
      </Heading>
      {panel.add.length > 0 && (
        <Word onPress={() => edit(...(panel.add as Edit[]))}>{w.addDrops(panel.add.length)}</Word>
      )}
      <span>
        <Chooser label={w.service} value={service} options={optionsOf(w.services)} set={setService} />
        <Chooser label={w.room} value={room} options={places} set={setRoom} />
        <AddByName label={w.addJack} size={20} add={(name) => edit(add({ name, service, room_id: idOf(room) }))} />
      </span>
      <ul>
        {panel.jacks.map((jack) => (
          <li key={jack.id}>
            <Text label={w.jack} value={jack.name} set={(name) => edit(changeIn("traced_jacks", jack.id, { name }))} />
            <Choice
              label={w.service}
              value={jack.service}
              options={optionsOf(w.services)}
              set={(next) => edit(changeIn("traced_jacks", jack.id, { service: next }))}
            />
            <Choice
              label={w.room}
              value={String(traced.get(jack.id)?.room_id ?? NO_ROOM)}
              options={places}
              set={(next) => edit(changeIn("traced_jacks", jack.id, { room_id: idOf(next) }))}
            />
            <button
              type="button"
              aria-label={`${w.removeJack}: ${jack.name}`}
              onClick={() => edit({ type: "remove_entry", list: "traced_jacks", id: jack.id })}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** 11, 15–16 as positions; null: it is none. */
function positionsOf(text: string): number[] | null {
  const found = new Set<number>();
  for (const part of text.split(/[,;\s]+/).filter(Boolean)) {
    const [, from, to] = /^(\d+)(?:[-–](\d+))?$/.exec(part) ?? [];
    if (!from || Number(to ?? from) - Number(from) > 960) return null;
    for (let at = Number(from); at <= Number(to ?? from); at++) found.add(at);
  }
  return [...found].sort((one, other) => one - other);
}

/** Positions as 11, 15–16. */
function rangesOf(positions: readonly number[]): string {
  const parts: string[] = [];
  positions.forEach((at, place) => {
    if (at - 1 === positions[place - 1]) return;
    let last = at;
    while (positions.includes(last + 1)) last++;
    parts.push(last > at ? `${at}–${last}` : `${at}`);
  });
  return parts.join(", ");
}

const SetUp = styled.div`
  display: grid; grid-template-columns: 1fr 1fr; gap: 16px 26px;
  section { display: grid; gap: 6px; align-content: start; justify-items: start; min-width: 0; }
  section > input, section > div input { width: 100%; }
  section:last-child { grid-column: 1 / -1; justify-items: stretch; > button { justify-self: start; } }
  section > span { display: flex; gap: 6px; align-items: baseline; flex-wrap: wrap; }
  section > span > input[inputmode] { width: 52px; text-align: right; }
  input { background: none; border: 0; border-bottom: 1px solid var(--rule); padding: 2px 1px; min-width: 0; }
  section > div:not(:first-child) { display: grid; gap: 2px; width: 100%; small { color: var(--faint); font-size: 12.5px; } }
  li { display: grid; grid-template-columns: minmax(0, 1fr) 110px 170px 24px; gap: 12px; align-items: baseline; border-bottom: 1px solid var(--rule); padding: 2px 0; }
  li input { border: 0; } li > button:last-child { background: none; border: 0; color: var(--clay); cursor: pointer; }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); li { grid-template-columns: minmax(0, 1fr) 80px 90px 24px; } }
`;
