import styled from "styled-components";
import type { Candidate, PlaceLine } from "../../api/client";
import { addTo, changeIn } from "../../api/edits";
import { useWork } from "../../api/work";
import { Choice, ChoiceButton } from "../../kit/Choice";
import { figure, length, lengthUnit, roundMoney } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.closetSites;
const QUESTIONS = ["cool", "dry", "both_sides", "room_to_grow", "socket"] as const;
type Question = (typeof QUESTIONS)[number];
const ANSWERS = [
  ["", "–"],
  ["true", words.closets.yes],
  ["false", words.closets.no],
] as const;

/** Every place for a closet side by side: what a head end there would mean, and what is known of the place. */
export function ClosetPlaces({ places }: { places: readonly PlaceLine[] }) {
  const { outcome, edit } = useWork();
  const { rooms, candidates = [], settings } = outcome.project;
  const nameOf = (roomId: number) => rooms.find((room) => room.id === roomId)?.name ?? "";
  const sorted = [...places].sort(
    (a, b) =>
      Number(a.faults.length > 0) - Number(b.faults.length > 0) || a.beyond - b.beyond || a.total_minor - b.total_minor,
  );
  const least = (key: "total_minor" | "cable_m" | "longest_m" | "hours" | "entry_m") =>
    Math.min(...places.filter((place) => !place.faults.length).map((place) => place[key]));
  const change = (place: PlaceLine, changes: Partial<Candidate>) => {
    if (place.closet_id != null) return edit(changeIn("closets", place.closet_id, changes));
    const row = place.candidate_id ?? candidates.find((one) => one.room_id === place.room_id)?.id;
    return row == null
      ? edit(addTo("candidates", { room_id: place.room_id, ...changes }))
      : edit(changeIn("candidates", row, changes));
  };
  const out = candidates.filter((one) => one.ruled_out);
  const some = (value: number, key: Parameters<typeof least>[0], text: string) =>
    value === least(key) ? <b>{text}</b> : text;
  return (
    <Section aria-label={w.places}>
      <Heading>
        <h2>{w.places}</h2>
        <span>{w.placesLead}</span>
      </Heading>
      <div className="wide">
        <table>
          <thead>
            <tr>
              <th>{w.column.place}</th>
              {(["total", "cable", "longest", "hours", "entry", "beyond", "sleeping"] as const).map((key) => (
                <th key={key} className="r">
                  {w.column[key]}
                </th>
              ))}
              {QUESTIONS.map((key) => (
                <th key={key} title={w.question[key]}>
                  {w.column[key]}
                </th>
              ))}
              <td />
            </tr>
          </thead>
          <tbody>
            {sorted.map((place) => {
              const name = nameOf(place.room_id);
              return (
                <tr key={place.number} data-fails={place.faults.length > 0 || undefined}>
                  <th scope="row">
                    {name}
                    {place.closet_id != null && <i> {w.here}</i>}
                    {place.faults.length > 0 && <small>{place.faults.join(", ")}</small>}
                  </th>
                  <td className="r">
                    {some(place.total_minor, "total_minor", roundMoney(place.total_minor, settings.currency))}
                  </td>
                  <td className="r">{some(place.cable_m, "cable_m", `${length(place.cable_m, 0)} ${lengthUnit()}`)}</td>
                  <td className="r">
                    {some(place.longest_m, "longest_m", `${length(place.longest_m)} ${lengthUnit()}`)}
                  </td>
                  <td className="r">{some(place.hours, "hours", `${figure(place.hours)} h`)}</td>
                  <td className="r">
                    {place.entry_m > 0 && some(place.entry_m, "entry_m", `${length(place.entry_m)} ${lengthUnit()}`)}
                  </td>
                  <td className="r">{place.beyond > 0 && <em>{place.beyond}</em>}</td>
                  <td className="r">
                    {place.sleeping_m != null &&
                      (place.sleeping_m > 0 ? `${length(place.sleeping_m)} ${lengthUnit()}` : w.wall)}
                  </td>
                  {QUESTIONS.map((key) => (
                    <td key={key}>
                      {key === "socket" && place.closet_id != null ? (
                        words.closets.yes
                      ) : (
                        <Choice
                          label={`${w.question[key]}: ${name}`}
                          value={place[key] == null ? "" : String(place[key])}
                          options={ANSWERS}
                          set={(next) => change(place, { [key as Question]: next === "" ? null : next === "true" })}
                        />
                      )}
                    </td>
                  ))}
                  <td>
                    {place.closet_id == null && (
                      <button
                        type="button"
                        className="away"
                        aria-label={w.ruleOut(name)}
                        title={w.ruleOut(name)}
                        onClick={() => change(place, { ruled_out: true })}
                      >
                        ×
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {out.length > 0 && (
        <p className="out">
          {w.ruledOut}:{" "}
          {out.map((one) => (
            <Word
              key={one.id}
              aria-label={w.include(nameOf(one.room_id))}
              onPress={() => edit(changeIn("candidates", one.id, { ruled_out: false }))}
            >
              {nameOf(one.room_id)}
            </Word>
          ))}
        </p>
      )}
      <p className="said">{w.mains}</p>
    </Section>
  );
}

const Section = styled.section`
  .wide { overflow-x: auto; }
  table { width: 100%; min-width: 760px; }
  th { text-align: left; font-weight: 400; color: var(--faint); padding: 2px 6px 2px 0; white-space: nowrap; }
  thead th, thead td { border-bottom: 1px solid var(--ink); }
  tbody th { color: var(--ink); font-weight: 500; white-space: normal; }
  tbody th i { font-style: normal; color: var(--faint); font-weight: 400; }
  tbody th small { display: block; color: var(--clay); font: italic 12.5px/1.3 var(--voice); }
  td { padding: 2px 6px 2px 0; white-space: nowrap; }
  tbody tr > * { border-bottom: 1px solid var(--rule); vertical-align: baseline; }
  .r { text-align: right; padding-right: 10px; }
  td b { font-weight: 650; }
  td em { font-style: normal; color: var(--clay); }
  tr[data-fails] td { color: var(--faint); }
  ${ChoiceButton} { min-width: 26px; }
  .away { background: none; border: 0; color: var(--faint); cursor: pointer; padding: 0 4px; }
  .away:hover { color: var(--clay); }
  .out { display: flex; gap: 12px; padding-top: 6px; color: var(--faint); }
`;
