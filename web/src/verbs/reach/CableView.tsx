import styled from "styled-components";
import { type CableToBuy, data, http } from "../../api/client";
import { useChosen, useOfRevision, useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { exact, length, lengthUnit, minorPerUnit, money } from "../../kit/figures";
import { small } from "../../kit/names";
import { Heading } from "../../kit/parts";
import { Sided } from "../../kit/sided";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { CableParts } from "./CableParts";
import { Terms } from "./Terms";

const w = words.cable;
const CATEGORIES = ["5e", "6", "6A"];

/** Boxes to buy and which run is cut from which; under what terms lengths and hours are told. */
export function CableView() {
  const lines = useOfRevision("cable", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/cable", { params: { path }, signal })),
  );
  if (!lines) return null;
  return (
    <Surface>
      <section aria-label={w.title}>
        <Heading>
          <h2>{w.title}</h2>
          <span>{w.lead}</span>
        </Heading>
        {lines.length === 0 && <p>{w.empty}</p>}
        {lines.map((line) => (
          <OneCable key={`${line.name}-${line.colour}`} line={line} />
        ))}
        <CableParts />
      </section>
      <div className="beside">
        <Terms />
        <Prices />
        <Findings verb="reach" />
      </div>
    </Surface>
  );
}

function OneCable({ line }: { line: CableToBuy }) {
  const { outcome, kinds, choose } = useWork();
  const chosen = useChosen();
  const { drops, rooms, settings } = outcome.project;
  const nameOf = (number: number) => {
    const drop = drops.find((one) => one.id === number);
    const kind = kinds.find((one) => one.key === drop?.kind)?.name;
    return drop?.label || `${kind}, ${rooms.find((room) => room.id === drop?.room_id)?.name}`;
  };
  const unit = lengthUnit();
  return (
    <article>
      <h3>
        {line.colour ? `${line.name}, ${line.colour}` : line.name}
        <b>
          {w.boxes(line.boxes.length)} {w.of} {length(line.box_m)} {unit}
        </b>
        <b>{money(line.total_minor, settings.currency)}</b>
      </h3>
      <p>
        {w.runs(line.runs)}, {length(line.total_m)} {unit}; {line.proven ? w.proven : w.bound(line.bound)};{" "}
        {w.atOnce(line.at_once, line.passes)}.{line.too_long.length > 0 && ` ${w.tooLong(line.too_long.length)}.`}
      </p>
      <ol>
        {line.boxes.map((box, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a box is known by its place
          <li key={place}>
            <div className="box">
              {box.cuts.map((cut) => (
                <button
                  key={cut.drop_id}
                  type="button"
                  style={{ flexGrow: cut.to_m - cut.from_m }}
                  title={`${nameOf(cut.drop_id)}: ${exact(cut.from_m)} – ${exact(cut.to_m)} m`}
                  aria-pressed={chosen.drops.has(cut.drop_id)}
                  onClick={() => choose({ drops: new Set([cut.drop_id]), path: null })}
                >
                  <span>{nameOf(cut.drop_id)}</span> <i>{length(cut.length_m)}</i>
                </button>
              ))}
              <div className="rest" style={{ flexGrow: box.rest_m }} />
            </div>
            <small>
              {w.rest} {length(box.rest_m)} {unit}
            </small>
          </li>
        ))}
      </ol>
    </article>
  );
}

function Prices() {
  const { outcome, kinds } = useWork();
  const { cables, colours, settings } = outcome.project;
  const free = kinds.filter((kind) => !colours.some((one) => one.kind === kind.key));
  return (
    <>
      <EntryList
        title={w.prices}
        lead={w.pricesLead}
        list="cables"
        rows={cables}
        name={(cable) => cable.category}
        fields={[
          { key: "category", as: { type: "choice", options: CATEGORIES.map((key) => [key, key]) } },
          { key: "outdoor", before: w.outdoor, as: { type: "tick" } },
          { key: "screened", before: w.screened, as: { type: "tick" } },
          { key: "box_m", before: w.box, as: { type: "number", least: 10, most: 2000 }, after: "m" },
          {
            key: "price_minor",
            as: { type: "number", scale: minorPerUnit(settings.currency) },
            after: settings.currency,
          },
          { key: "diameter_mm", as: { type: "number", width: 4, least: 2, most: 20 }, after: w.thick },
          { key: "rated_c", as: { type: "number", width: 4, least: -40, most: 90 }, after: "°C" },
        ]}
        add={{ label: w.addPrice, options: CATEGORIES.map((key) => [key, key]), values: (category) => ({ category }) }}
      />
      <EntryList
        title={w.colours}
        lead={w.coloursLead}
        list="colours"
        rows={colours}
        name={(colour) => kinds.find((kind) => kind.key === colour.kind)?.plural ?? colour.kind}
        fields={[
          { key: "kind", as: { type: "choice", options: kinds.map((kind) => [kind.key, small(kind.plural)]) } },
          { key: "colour", as: { type: "text", width: 12 } },
        ]}
        add={{
          label: w.addColour,
          options: free.map((kind) => [kind.key, small(kind.plural)]),
          values: (kind) => ({ kind, colour: "grey" }),
        }}
      />
    </>
  );
}

const Surface = styled(Sided)`
  > section { padding: 6px 14px 20px 16px; display: grid; gap: 14px; align-content: start; min-width: 0; }
  article { border-top: 1px solid var(--ink); padding-top: 6px; display: grid; gap: 4px; min-width: 0; }
  h3 { display: flex; gap: 14px; font-size: 13.5px; align-items: baseline; }
  h3 b { font-weight: 550; }
  h3 b:last-child { margin-left: auto; }
  article > p { color: var(--faint); }
  ol { display: grid; gap: 5px; padding: 0; list-style: none; }
  ol li { display: grid; grid-template-columns: minmax(0, 1fr) 92px; gap: 10px; align-items: center; }
  small { color: var(--faint); font-size: 12.5px; text-align: right; }
  .box { display: flex; border: 1px solid var(--ink); height: 26px; min-width: 0; }
  .box > * { flex-basis: 0; min-width: 0; }
  .box button { display: flex; gap: 5px; justify-content: space-between; background: none; border: 0; border-right: 1px solid var(--ink); padding: 0 4px; cursor: pointer; overflow: hidden; align-items: center; }
  .box button span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  .box button i { font-style: normal; color: var(--faint); }
  .box button[aria-pressed="true"], .box button:hover { background: var(--earth); }
  .rest { background: repeating-linear-gradient(135deg, transparent 0 4px, var(--rule) 4px 5px); }
  ${NARROW} { .box button span { display: none; } }
`;
