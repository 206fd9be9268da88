import type { UseQueryResult } from "@tanstack/react-query";
import styled from "styled-components";
import type { Aim, Answer, PickFor } from "../../api/client";
import { useWork } from "../../api/work";
import { Faceplate } from "../../instruments/Faceplate";
import { figure, money } from "../../kit/figures";
import { Word } from "../../kit/parts";
import { words } from "../../words";
import { LETTERS } from "./Pick";
import { Search } from "./Search";

const w = words.pick;

/** One whole answer: its price and proof, its boxes with their ports, its first year of trouble. */
export function AnswerColumn(props: { aim: Aim; query: UseQueryResult<PickFor>; cheapest: Answer | null }) {
  const { aim, query } = props;
  const { outcome, edit } = useWork();
  const { settings } = outcome.project;
  const answer = query.data?.answer;
  const stands = settings.aim === aim;
  const underway = query.data?.underway;
  const stale = underway || query.data?.revision !== outcome.revision;
  const same = aim !== "least_price" && answer && props.cheapest && sameBoxes(answer, props.cheapest);
  return (
    <Column data-stands={stands || undefined} aria-label={words.aims[aim]}>
      <h2>
        <b>{LETTERS[aim]}</b> {words.aims[aim]}
      </h2>
      {underway && <Search of={words.aims[aim]} question={{ type: "best", aim }} underway={underway} />}
      {!answer ? (
        !underway && (
          <p className="working" role="status">
            {query.error ? query.error.message : w.working(words.aims[aim])}
          </p>
        )
      ) : (
        <>
          <p className="price">
            <strong>{money(answer.price_minor, settings.currency)}</strong>{" "}
            <span>{stale ? w.asBefore : proof(answer, settings.currency)}</span>
          </p>
          {answer.closets.map((closet) => (
            <ol key={closet.closet_id} aria-label={closet.name}>
              {answer.closets.length > 1 && (
                <h3>
                  {closet.name} <span>{money(closet.price_minor, settings.currency)}</span>
                </h3>
              )}
              {answer.boxes.map(
                (box, place) =>
                  box.closet_id === closet.closet_id && (
                    // biome-ignore lint/suspicious/noArrayIndexKey: equal boxes are told apart by their place
                    <li key={place}>
                      <span title={box.name}>
                        {box.name}
                        {box.owned && ` (${w.owned})`}
                      </span>
                      <Faceplate box={box} />
                    </li>
                  ),
              )}
            </ol>
          ))}
          {answer.parts
            .filter((part) => part.kind === "injector" || part.kind === "module")
            .map((part) => (
              <p className="beside" key={`${part.model}-${part.owned}`}>
                {part.quantity} × {part.name}
              </p>
            ))}
          {answer.costs && (
            <p className="beside">
              {money(answer.costs.yearly_minor, settings.currency)} {w.aYear}
              {answer.costs.years > 0 && `, ${money(answer.costs.horizon_minor, settings.currency)} `}
              {answer.costs.years > 0 && w.overYears(answer.costs.years).toLowerCase()}
            </p>
          )}
          <Trouble answer={answer} />
          <p className="facts">
            {w.boxes(answer.boxes.length)} · {answer.units} U · {w.sockets(answer.sockets)} · {figure(answer.mains_w)} W{" "}
            {w.mains}
            {same && <b> · {w.same("A")}</b>}
          </p>
          <p className="acts">
            {stands ? (
              <em>{w.stands}</em>
            ) : (
              <Word onPress={() => edit({ type: "change_settings", changes: { aim } })}>{w.stand}</Word>
            )}
            {stands &&
              (outcome.balance.held ? (
                <Word onPress={() => edit({ type: "hold", models: [] })}>{w.letGo}</Word>
              ) : (
                <Word onPress={() => edit({ type: "hold", models: held(answer) })}>{w.hold}</Word>
              ))}
          </p>
        </>
      )}
    </Column>
  );
}

/** First year of trouble, or how far it holds. */
function Trouble({ answer }: { answer: Answer }) {
  const { outcome } = useWork();
  const { start_year: start } = outcome.project.settings;
  const soon = answer.full_year != null && answer.full_year - start <= 5;
  const verdict = answer.full_year == null ? "holds" : soon ? "over" : "full";
  return (
    <p className="trouble" data-verdict={verdict}>
      {answer.full_year == null ? (
        <b>{w.holds(start + 10)}</b>
      ) : (
        <>
          <b>{w.fullIn(answer.full_year)}</b> — {answer.full_of}
        </>
      )}
    </p>
  );
}

function proof(answer: Answer, currency: string): string {
  if (answer.proven) return w.proven[answer.aim];
  if (answer.aim === "least_power") return w.bound(`${figure(answer.bound / 1000)} W`);
  return w.bound(answer.aim === "fewest_boxes" ? w.boxes(answer.bound) : money(answer.bound, currency));
}

/** What of each model an answer has in each closet. */
function held(answer: Answer) {
  return answer.closets.flatMap((closet) =>
    Object.entries(closet.models).map(([model, count]) => ({ closet_id: closet.closet_id, model, count })),
  );
}

function sameBoxes(a: Answer, b: Answer): boolean {
  const list = (answer: Answer) => JSON.stringify(held(answer).sort((x, y) => (x.model < y.model ? -1 : 1)));
  return list(a) === list(b);
}

const Column = styled.article`
  padding: 10px 16px 12px; border-top: 5px solid transparent; display: flex; flex-direction: column; gap: 5px; min-width: 0;
  &[data-stands] { background: var(--sheet); border-top-color: var(--clay); }
  h2 { font-weight: 400; font-size: 13.5px; b { font: 700 18px var(--voice); margin-right: 6px; } }
  .price strong { font: 650 26px/1.15 var(--voice); }
  .price span { color: var(--faint); white-space: nowrap; margin-left: 6px; }
  .working { color: var(--slate); padding: 8px 0 120px; }
  h3 { font: 600 13px var(--data); margin: 2px 0 4px; display: flex; justify-content: space-between; gap: 8px; }
  h3 span { font-weight: 400; color: var(--faint); white-space: nowrap; }
  ol + ol { border-top: 1px solid var(--rule); padding-top: 4px; }
  li { margin-bottom: 7px; }
  li > span { display: block; font-size: 12.5px; font-stretch: 84%; margin-bottom: 2px; }
  .beside { font-size: 12.5px; font-stretch: 84%; }
  .trouble { margin-top: auto; padding-left: 8px; border-left: 4px solid var(--moss); }
  .trouble b { color: var(--moss); }
  .trouble[data-verdict="full"] { border-color: var(--ochre); b { color: var(--ochre); } }
  .trouble[data-verdict="over"] { border-color: var(--clay); b { color: var(--clay); } }
  .facts { font-size: 12.5px; font-stretch: 88%; color: var(--faint); }
  .acts { display: flex; justify-content: space-between; gap: 0 10px; flex-wrap: wrap; min-height: 20px; }
  .acts em { font-style: normal; color: var(--clay); font-weight: 600; }
`;
