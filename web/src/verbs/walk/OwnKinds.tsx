import type { OwnKind } from "../../api/client";
import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { optionsOf } from "../../kit/Choice";
import { speed } from "../../kit/figures";
import { small } from "../../kit/names";
import { Term } from "../../kit/parts";
import { words } from "../../words";

const w = words.ownKinds;
const SPEEDS = [100, 1000, 2500, 5000, 10000];
const isCamera = (own: OwnKind) => own.base === "camera";
const CLASSES = [0, 1, 2, 3, 4, 5, 6, 7, 8];

/** Kinds of the project's own: a name for a kind there is, with its usual figures changed. */
export function OwnKinds() {
  const { outcome, kinds } = useWork();
  const { own_kinds: ownKinds } = outcome.project;
  return (
    <Term text={w.title(ownKinds.length)} label={w.label}>
      <EntryList
        title={w.label}
        lead={w.lead}
        list="own_kinds"
        rows={ownKinds}
        name={(own) => own.name}
        fields={[
          { key: "name", as: { type: "text", strong: true, width: 20 } },
          {
            key: "base",
            before: w.like,
            as: { type: "choice", options: kinds.map((kind) => [kind.key, small(kind.name)]) },
          },
          {
            key: "speed_mbit",
            as: { type: "choice", numeric: true, options: SPEEDS.map((value) => [String(value), speed(value)]) },
          },
          {
            key: "poe_class",
            as: {
              type: "choice",
              numeric: true,
              options: [
                ["", w.unpowered],
                ...CLASSES.map((value): [string, string] => [String(value), w.classOf(value)]),
              ],
            },
          },
          { key: "draw_w", as: { type: "number", most: 100 }, after: "W" },
          { key: "codec", when: isCamera, as: { type: "choice", options: optionsOf(words.footage.codecs) } },
          { key: "frames_s", when: isCamera, as: { type: "number", least: 0.2, most: 120 }, after: w.frames },
          { key: "quality", when: isCamera, as: { type: "choice", options: optionsOf(words.footage.qualities) } },
          { key: "record_day_percent", when: isCamera, as: { type: "number", most: 100 }, after: w.day },
          { key: "record_night_percent", when: isCamera, as: { type: "number", most: 100 }, after: w.night },
          { key: "keep_days", when: isCamera, as: { type: "number", least: 0.1, most: 3650 }, after: w.days },
          { key: "place", as: { type: "text", width: 8, placeholder: w.place } },
        ]}
        add={{ placeholder: w.add, values: (name) => ({ name, base: "jack" }) }}
      />
    </Term>
  );
}
