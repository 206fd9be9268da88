import { useState } from "react";
import styled from "styled-components";
import type { Closet, ClosetStack, Edit, StackFor } from "../../api/client";
import { addTo } from "../../api/edits";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { DrawingSurface } from "../../instruments/plan/DrawingSurface";
import { Searching } from "../../instruments/Searching";
import { SheetWord } from "../../instruments/SheetWord";
import { Chooser, optionsOf } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { exact, figure, length, lengthUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { FlatDrawing } from "./FlatDrawing";
import { RackDrawing } from "./RackDrawing";
import { ThingSheet } from "./ThingSheet";
import { useCloset, useProposals, useStack } from "./useStack";

const w = words.stack;
type Kind = Exclude<keyof typeof w.kinds, "router" | "switch" | "injector">;
const ADDED = optionsOf(w.kinds).filter(([key]) => !["router", "switch", "injector"].includes(key));

/** A closet to scale, with all that stands in it; things are dragged, pinned, and arranged with one press. */
export function ClosetView() {
  const { id, outcome, edit } = useWork();
  const stack = useStack();
  const { closet, here, pick } = useCloset(stack);
  const [chosen, choose] = useState<string | null>(null);
  const { closets } = outcome.project;
  if (!stack || !closet || !here) return null;
  const thing = here.things.find((one) => one.key === chosen);
  const isRack = closet.housing === "rack";
  const add = (kind: string) => edit(addTo("gear", { closet_id: closet.id, kind: kind as Kind }));
  return (
    <Surface>
      <div className="drawing">
        <div className="tools">
          {closets.length > 1 && (
            <Chooser
              label={w.closet}
              value={String(closet.id)}
              options={closets.map((one) => [String(one.id), one.name] as const)}
              set={(next) => {
                choose(null);
                pick(Number(next));
              }}
            />
          )}
          <Chooser<string>
            label={w.add}
            value=""
            options={[["", w.add], ...ADDED]}
            set={(kind) => {
              if (kind) add(kind);
            }}
          />
          <Proposed closet={closet} />
          <a href={`/api/projects/${id}/closets/${closet.id}/elevation.svg`}>SVG</a>
          <a href={`/api/projects/${id}/closets/${closet.id}/elevation.dxf`}>DXF</a>
          <a href={`/api/projects/${id}/stack/loading.csv`}>{w.loading}</a>
          <a href={`/api/projects/${id}/stack/loading.xlsx`}>XLSX</a>
          <SheetWord sheet="stack" />
          {closet.housing === "panel" && (
            <Pattern>
              {w.pattern} <SheetWord sheet="pattern" />
            </Pattern>
          )}
          <span role="status">{isRack ? w.hint : w.hintFlat}</span>
        </div>
        {isRack ? (
          <RackDrawing closet={closet} here={here} chosen={chosen} choose={choose} />
        ) : (
          <FlatDrawing closet={closet} here={here} chosen={chosen} choose={choose} />
        )}
        <Below stack={stack} closet={closet} here={here} />
      </div>
      <div className="beside">
        {thing ? (
          <ThingSheet thing={thing} here={here} stack={stack} done={() => choose(null)} />
        ) : (
          <Things here={here} choose={choose} />
        )}
        <Findings verb="stack" />
      </div>
    </Surface>
  );
}

/** The best arrangement that is known, taken with one press; a better one that would move what is screwed in. */
function Proposed({ closet }: { closet: Closet }) {
  const { edit } = useWork();
  const { found, underway, isOld, stop, again } = useProposals();
  const best = found?.reply?.closets.find((one) => one.closet_id === closet.id);
  const moved = best?.rack?.better?.puts.filter((put) => put.moves).length ?? 0;
  const steady = best?.rack?.steady;
  const isWhole = best?.rack && !best.rack.broken.some((one) => one.rule === "place");
  const left = steady?.left_out ?? best?.flat?.left_out ?? [];
  return (
    <>
      {best && best.edits.length > 0 && (
        <Word isDisabled={isOld} onPress={() => edit(...(best.edits as Edit[]))}>
          {w.arrange}
        </Word>
      )}
      {best && best.better_edits.length > 0 && (
        <Word isDisabled={isOld} onPress={() => edit(...(best.better_edits as Edit[]))}>
          {w.better(moved)}
        </Word>
      )}
      {best?.rack && steady && !isOld && (
        <Weight>
          {isWhole
            ? w.best(figure(steady.score.total), figure(best.rack.now.total))
            : w.bestAlone(figure(steady.score.total))}
          , {steady.proven ? w.proven : w.bound(figure(steady.bound))}
          {left.length > 0 && <b> {w.leftOut(String(left.length))}</b>}
        </Weight>
      )}
      <Searching underway={underway} told={w.searching} stop={stop} again={again} />
    </>
  );
}

/** What does not fit, the cords, and the sums. */
function Below({ closet, here }: { stack: StackFor; closet: Closet; here: ClosetStack }) {
  const names = new Map(here.things.map((one) => [one.key, one.name]));
  const told = here.broken.filter((one) => one.rule !== "place");
  return (
    <Told>
      <section aria-label={w.broken}>
        <Heading>
          <h2>{w.broken}</h2>
          <span>
            {closet.housing === "rack" &&
              w.sum(here.units_taken, closet.units ?? 9, exact(here.mass_kg), exact(closet.load_kg ?? 60))}
          </span>
        </Heading>
        <ul>
          {told.map((one) => (
            <li key={`${one.rule} ${one.things.join()}`}>{one.text}</li>
          ))}
          {closet.housing === "rack" && <li data-faint>{w.positions(here.positions_needed, here.positions)}</li>}
        </ul>
      </section>
      {closet.housing === "rack" && (
        <section aria-label={w.cords}>
          <Heading>
            <h2>{w.cords}</h2>
            <span>{w.wishes(exact(here.score.cord_units), figure(here.score.hot_w), figure(here.score.heavy_kg))}</span>
          </Heading>
          <ul>
            <Weighing />
            {here.cords.map((one) => (
              <li key={`${one.one} ${one.other}`} data-faint>
                {w.cordLine(
                  one.count,
                  names.get(one.one) ?? "",
                  names.get(one.other) ?? "",
                  `${length(one.length_m, 2)} ${lengthUnit()}`,
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
    </Told>
  );
}

/** What each wish of an arrangement weighs, for all closets of the project. */
function Weighing() {
  const { outcome, edit } = useWork();
  const { settings } = outcome.project;
  return (
    <Weights data-faint aria-label={w.weights}>
      <span>{w.weights}:</span>
      {(Object.entries(w.weight) as [keyof typeof w.weight, string][]).map(([key, name]) => (
        <span key={key}>
          {name}{" "}
          <Amount
            label={name}
            value={settings[key] ?? null}
            most={1000}
            set={(value) => edit({ type: "change_settings", changes: { [key]: value ?? 0 } })}
          />
        </span>
      ))}
    </Weights>
  );
}

/** Everything in the closet, from the top down; pressing one chooses it. */
function Things({ here, choose }: { here: ClosetStack; choose: (key: string) => void }) {
  const sorted = here.things.toSorted((one, other) => (other.unit ?? 0) - (one.unit ?? 0));
  return (
    <section aria-label={w.things}>
      <Heading>
        <h2>{w.things}</h2>
        {!here.things.length && <span>{w.none}</span>}
      </Heading>
      <List>
        {sorted.map((one) => (
          <li key={one.key}>
            <button type="button" onClick={() => choose(one.key)}>
              <b>{one.name}</b>
              <span>
                {w.sizes(one.units, `${one.depth_mm} mm`, `${exact(one.mass_kg)} kg`)}
                {one.mains_w > 0 && `, ${figure(one.mains_w)} W`}
              </span>
              <i>{one.unit ? w.unit(one.unit) : one.on || one.x_mm != null ? "" : w.nowhere}</i>
            </button>
          </li>
        ))}
      </List>
      <Care>{w.caution}</Care>
    </section>
  );
}

export const Care = styled.p`font: 14px/1.35 var(--voice); padding: 8px 0 0; color: var(--ochre);`;
const Pattern = styled.em`font-style: normal;`;
const Weight = styled.em`font-style: normal; color: var(--faint); b { color: var(--clay); font-weight: 550; }`;
const Surface = styled(DrawingSurface)`
  > .drawing { grid-template-rows: auto minmax(0, 1fr) fit-content(30%); }
  ${NARROW} { > .drawing { grid-template-rows: auto 48vh auto; } }
`;
const Told = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 24px; min-height: 0; overflow: auto;
  ul { border-top: 1px solid var(--ink); }
  li { padding: 3px 0; border-bottom: 1px solid var(--rule); color: var(--clay); }
  li[data-faint] { color: var(--faint); }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
`;
const Weights = styled.li`
  display: flex; flex-wrap: wrap; gap: 0 14px;
  input { width: 6ch; text-align: right; background: none; border: 0; border-bottom: 1px dotted var(--faint); }
`;
const List = styled.ul`
  border-top: 1px solid var(--ink);
  li { border-bottom: 1px solid var(--rule); }
  button {
    display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0 10px; width: 100%; background: none; border: 0;
    padding: 4px 0; text-align: left; cursor: pointer;
  }
  button:hover { background: var(--earth); }
  b { font-weight: 550; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; grid-column: 1 / -1; }
  span, i { color: var(--faint); font-stretch: 84%; font-style: normal; }
`;
