import styled from "styled-components";
import type { Question, Underway } from "../../api/client";
import { isSearched, useSearch, useWork } from "../../api/work";
import { figure, money } from "../../kit/figures";
import { Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.pick;

/** How far the search for a reply is, in words, with the act that stops it or begins it again. */
export function Search({ of, question, underway }: { of: string; question: Question; underway: Underway }) {
  const { outcome } = useWork();
  const { stop, again } = useSearch(question);
  const searched = isSearched(underway);
  const { currency } = outcome.project.settings;
  const write = (value: number) => (underway.weight === "price" ? money(value, currency) : `${figure(value / 1000)} W`);
  return (
    <Line role="status">
      <span>
        {w.search[underway.state](of)}
        {underway.told && ` ${underway.told}`}
        {searched && !underway.attended && ` ${underway.text}.`}
        {underway.of > 0 && <b>{w.doneOf(underway.done, underway.of)}</b>}
        {underway.share > 0 && <b>{w.shareDone(Math.round(underway.share * 100))}</b>}
        {underway.best != null && <b>{w.bestSoFar(write(underway.best))}</b>}
        {underway.bound > 0 && <b>{w.nothingUnder(write(underway.bound))}</b>}
      </span>
      <Word aria-label={`${searched ? w.stop : w.again}: ${of}`} onPress={searched ? stop : again}>
        {searched ? w.stop : w.again}
      </Word>
    </Line>
  );
}

const Line = styled.p`
  color: var(--slate); font-size: 12.5px; line-height: 1.35; display: flex; justify-content: space-between; gap: 10px;
  align-items: baseline; border-left: 3px solid var(--slate); padding-left: 8px;
  b { font-weight: 400; display: block; white-space: nowrap; }
`;
