import { type FormEvent, useState } from "react";
import type { Closet } from "../../api/client";
import { addTo } from "../../api/edits";
import { useWork } from "../../api/work";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount, Text } from "../../kit/fields";
import { Heading, Word } from "../../kit/parts";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { Sheet } from "./Brief";

const w = words.closets;
const ANSWERS = [
  ["", w.unknown],
  ["true", w.yes],
  ["false", w.no],
] as const;

/** The head end and the closets beside it, and whether their places suit them: asked before anything is pulled. */
export function Closets() {
  const { outcome, edit } = useWork();
  const { closets } = outcome.project;
  const [name, setName] = useState("");
  const add = async (event: FormEvent) => {
    event.preventDefault();
    const values = { name: name.trim(), housing: "shelf" as const, units: 4, sockets: 2 };
    if (values.name && (await edit(addTo("closets", values)))) setName("");
  };
  return (
    <>
      {closets.map((closet, place) => (
        <OneCloset key={closet.id} closet={closet} isHead={place === 0} />
      ))}
      <form onSubmit={add}>
        <input
          className="add"
          aria-label={w.add}
          placeholder={w.add}
          title={w.addWhy}
          maxLength={200}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </form>
    </>
  );
}

function OneCloset({ closet, isHead }: { closet: Closet; isHead: boolean }) {
  const { outcome, edit } = useWork();
  const set = (changes: Partial<Closet>) => edit({ type: "change_entry", list: "closets", id: closet.id, changes });
  const ending = outcome.project.drops.filter((drop) => drop.closet_id === closet.id).length;
  const title = isHead ? w.title : closet.name;
  return (
    <Sheet aria-label={title} className="narrow">
      <Heading>
        <h2>{title}</h2>
        <span>{isHead ? w.lead : w.furtherLead(ending)}</span>
      </Heading>
      <dl>
        <dt>{w.name}</dt>
        <dd>
          <Text label={w.name} value={closet.name} set={(name) => set({ name })} />
        </dd>
        <dt>{w.room}</dt>
        <dd>
          <Choice
            label={w.room}
            value={closet.room_id == null ? "" : String(closet.room_id)}
            options={[["", w.noRoom], ...outcome.project.rooms.map((room) => [String(room.id), room.name] as const)]}
            set={(room) => set({ room_id: room ? Number(room) : null, x_m: null, y_m: null })}
          />
        </dd>
        {!isHead && <Housing closet={closet} set={set} />}
        <dt>{w.otherSockets}</dt>
        <dd className="pair">
          {!isHead && (
            <>
              <Amount
                label={words.terms.sockets}
                value={closet.sockets}
                least={1}
                most={60}
                set={(sockets) => set({ sockets: sockets ?? 1 })}
              />
              <i>{w.socketsForBoxes}</i>
            </>
          )}
          <Amount
            label={w.otherSockets}
            value={closet.other_sockets ?? null}
            most={60}
            set={(other_sockets) => set({ other_sockets })}
          />
          <i>{isHead ? w.otherSocketsWhy : w.otherSocketsBrief}</i>
        </dd>
        {(Object.keys(w.questions) as (keyof typeof w.questions)[]).map((key) => (
          <Question key={key} closet={closet} field={key} set={set} />
        ))}
      </dl>
      {!isHead && (
        <Word onPress={() => edit({ type: "remove_entry", list: "closets", id: closet.id })}>{w.remove(ending)}</Word>
      )}
    </Sheet>
  );
}

/** What a further closet gives its boxes; the head end's stands with the terms of the pick. */
function Housing({ closet, set }: { closet: Closet; set: (changes: Partial<Closet>) => Promise<boolean> }) {
  return (
    <>
      <dt>{w.housing}</dt>
      <dd className="pair">
        <Choice
          label={w.housing}
          value={closet.housing}
          options={optionsOf(words.terms.housing)}
          set={(housing) => set({ housing })}
        />
        <Amount
          label={words.terms.units}
          value={closet.units}
          least={1}
          most={60}
          set={(units) => set({ units: units ?? 1 })}
        />
        <i>U</i>
        <Tick label={words.terms.living} value={closet.living_space} set={(living_space) => set({ living_space })} />
        <i>{w.living}</i>
      </dd>
    </>
  );
}

function Question(props: {
  closet: Closet;
  field: keyof typeof w.questions;
  set: (changes: Partial<Closet>) => Promise<boolean>;
}) {
  const [question, why] = w.questions[props.field];
  const value = props.closet[props.field];
  return (
    <>
      <dt>{question}</dt>
      <dd className="pair">
        <Choice
          label={question}
          value={value == null ? "" : String(value)}
          options={ANSWERS}
          set={(next) => props.set({ [props.field]: next === "" ? null : next === "true" })}
        />
        <i>{why}</i>
      </dd>
    </>
  );
}
