import styled from "styled-components";
import type { Edit } from "../../api/client";
import { changeIn, type Values } from "../../api/edits";
import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { Searching } from "../../instruments/Searching";
import { Choice, Chooser, optionsOf } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { money } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { CoverPage } from "../cover/page";
import { useCloset, useProposals, useStack } from "./useStack";

const w = words.housing;

/** The rack of the least price with all that goes in it, and why no other; of a wall panel what is in the way. */
export function HousingView() {
  const { outcome, edit } = useWork();
  const stack = useStack();
  const { closet, pick } = useCloset(stack);
  const { found, underway, isOld, stop, again } = useProposals();
  if (!closet) return null;
  const best = found?.reply?.closets.find((one) => one.closet_id === closet.id);
  const housing = best?.housing;
  const racks = (stack?.lines ?? [])
    .filter((line) => line.kind === "housing")
    .map((line) => [line.key, line.name] as const);
  const currency = outcome.project.settings.currency ?? "EUR";
  const set = (values: Values<"closets">) => edit(changeIn("closets", closet.id, values));
  const blocks = (outcome.project.panel_blocks ?? []).filter((one) => one.closet_id === closet.id);
  return (
    <CoverPage>
      <div>
        {outcome.project.closets.length > 1 && (
          <Chooser
            label={words.stack.closet}
            value={String(closet.id)}
            options={outcome.project.closets.map((one) => [String(one.id), one.name] as const)}
            set={(next) => pick(Number(next))}
          />
        )}
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            <span>{closet.housing === "rack" ? w.lead : w.flat}</span>
          </Heading>
          <Searching underway={underway} told={words.stack.searching} stop={stop} again={again} />
          {housing && (
            <Best data-old={isOld || undefined}>
              {housing.why_not && <p>{housing.why_not}</p>}
              {housing.housing && (
                <>
                  <h3>{w.best(housing.housing.name, money(housing.price_minor, currency))}</h3>
                  <p>
                    {`${w.units(housing.units)}, ${housing.proven ? w.proven : w.unproven}`}{" "}
                    <Word isDisabled={isOld} onPress={() => edit(...(best.housing_edits as Edit[]))}>
                      {w.take}
                    </Word>
                  </p>
                  <ul>
                    {[housing.housing, ...housing.parts].map((part) => (
                      <li key={part.model}>
                        <b>{part.count} ×</b> {part.name} <i>{money(part.price_minor, currency)}</i>
                      </li>
                    ))}
                  </ul>
                </>
              )}
              {housing.others.length > 0 && (
                <>
                  <h3>{w.why}</h3>
                  <ul>
                    {housing.others.map((other) => (
                      <li key={other.model}>
                        {other.name} <i>{money(other.price_minor, currency)}</i>
                        <em>{other.text}</em>
                      </li>
                    ))}
                  </ul>
                </>
              )}
            </Best>
          )}
        </section>
        {closet.housing === "rack" && (
          <Sheet aria-label={w.rack}>
            <Heading>
              <h2>{w.rack}</h2>
            </Heading>
            <Line label={w.bought}>
              <Choice
                label={w.bought}
                value={closet.housing_model ?? ""}
                options={[["", w.notBought], ...racks]}
                set={(model) => set({ housing_model: model || null })}
              />
            </Line>
            <Line label={w.there}>
              <Tick label={w.there} value={closet.is_there ?? false} set={(is_there) => set({ is_there })}>
                {w.thereWhy}
              </Tick>
            </Line>
            <Line label={w.fixing}>
              <Choice
                label={w.fixing}
                value={closet.fixing ?? ""}
                options={optionsOf(w.fixings)}
                set={(fixing) => set({ fixing })}
              />
            </Line>
            <Line label={w.entry}>
              <Choice
                label={w.entry}
                value={closet.entry ?? ""}
                options={optionsOf(w.entries)}
                set={(entry) => set({ entry })}
              />
            </Line>
            <Line label={w.slack}>
              <Amount
                label={w.slack}
                value={closet.slack_mm ?? null}
                most={20000}
                set={(slack_mm) => set({ slack_mm })}
              />
              <i>{w.slackWhy}</i>
            </Line>
            <Line label={w.blocked}>
              <Choice
                label={w.blocked}
                value={closet.blocked ?? ""}
                options={optionsOf(w.blockeds)}
                set={(blocked) => set({ blocked })}
              />
            </Line>
            <Line label={w.keep}>
              <Tick label={w.keep} value={closet.keep_free ?? true} set={(keep_free) => set({ keep_free })}>
                {w.keepWhy}
              </Tick>
            </Line>
          </Sheet>
        )}
        {closet.housing !== "rack" && (
          <Sheet aria-label={w.wall}>
            <Heading>
              <h2>{w.wall}</h2>
            </Heading>
            <Line label={w.width}>
              <Amount
                label={w.width}
                value={closet.panel_width_mm ?? null}
                usual={440}
                least={50}
                most={2500}
                set={(panel_width_mm) => set({ panel_width_mm })}
              />
              <i>mm</i>
            </Line>
            <Line label={w.height}>
              <Amount
                label={w.height}
                value={closet.panel_height_mm ?? null}
                usual={Math.round((closet.units ?? 4) * 44.45)}
                least={50}
                most={2500}
                set={(panel_height_mm) => set({ panel_height_mm })}
              />
              <i>mm</i>
            </Line>
          </Sheet>
        )}
        {closet.housing === "panel" && (
          <EntryList
            title={w.blocks}
            lead={w.blocksLead}
            list="panel_blocks"
            rows={blocks}
            name={(one) => one.name}
            fields={[
              { key: "name", as: { type: "text", width: 14, strong: true } },
              { key: "x_mm", before: "x", as: { type: "number", most: 2500 } },
              { key: "y_mm", before: "y", as: { type: "number", most: 2500 } },
              { key: "width_mm", as: { type: "number", least: 1, most: 2500 }, after: "×" },
              { key: "height_mm", as: { type: "number", least: 1, most: 2500 }, after: "mm" },
            ]}
            add={{
              placeholder: w.addBlock,
              values: (name) => ({ name, closet_id: closet.id, x_mm: 0, y_mm: 0, width_mm: 60, height_mm: 200 }),
            }}
          />
        )}
      </div>
      <div>
        <Findings verb="stack" />
      </div>
    </CoverPage>
  );
}

const Best = styled.div`
  border-top: 1px solid var(--ink); padding-top: 8px; display: grid; gap: 6px;
  &[data-old] { opacity: 0.6; }
  h3 { margin: 6px 0 0; font: 600 17px var(--voice); }
  p { color: var(--faint); }
  li { padding: 2px 0; border-bottom: 1px solid var(--rule); }
  i { font-style: normal; color: var(--faint); }
  em { font-style: normal; color: var(--clay); display: block; }
  b { font-weight: 550; }
`;
