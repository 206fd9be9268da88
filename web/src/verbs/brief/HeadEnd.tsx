import type { Closet, ClosetChanges } from "../../api/client";
import { useWork } from "../../api/work";
import { Amount, Choice, Text } from "../../kit/fields";
import { Heading } from "../../kit/parts";
import { words } from "../../words";
import { Sheet } from "./Brief";

const w = words.headEnd;
const ANSWERS = [
  ["", w.unknown],
  ["true", w.yes],
  ["false", w.no],
] as const;

/** The closet, and whether its place suits it: asked before anything is pulled towards it. */
export function HeadEnd() {
  const { outcome, edit } = useWork();
  const closet = outcome.project.closets[0];
  if (!closet) return null;
  const set = (changes: ClosetChanges) => edit({ type: "change_closet", id: closet.id, changes });
  return (
    <Sheet aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>{w.lead}</span>
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
        <dt>{w.otherSockets}</dt>
        <dd className="pair">
          <Amount
            label={w.otherSockets}
            value={closet.other_sockets ?? null}
            most={60}
            set={(other_sockets) => set({ other_sockets })}
          />
          <i>{w.otherSocketsWhy}</i>
        </dd>
        {(Object.keys(w.questions) as (keyof typeof w.questions)[]).map((key) => (
          <Question key={key} closet={closet} field={key} set={set} />
        ))}
      </dl>
    </Sheet>
  );
}

function Question(props: {
  closet: Closet;
  field: keyof typeof w.questions;
  set: (changes: ClosetChanges) => Promise<boolean>;
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
