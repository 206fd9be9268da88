import { useQueryClient } from "@tanstack/react-query";
import styled from "styled-components";
import { type Aim, http, type Underway } from "../../api/client";
import { isSearched, useWork } from "../../api/work";
import { figure, money } from "../../kit/figures";
import { Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.pick;

/** How far the search for an answer is, in words, with the act that stops it or begins it again. */
export function Search({ aim, underway }: { aim: Aim; underway: Underway }) {
  const { id, outcome } = useWork();
  const cache = useQueryClient();
  const path = { params: { path: { project_id: id, aim } } };
  const searched = isSearched(underway);
  const { currency } = outcome.project.settings;
  const write = (value: number) => (underway.weight === "price" ? money(value, currency) : `${figure(value / 1000)} W`);
  const act = async () => {
    if (searched) await http.DELETE("/api/projects/{project_id}/picks/{aim}/search", path);
    else await http.POST("/api/projects/{project_id}/picks/{aim}/search", path);
    cache.invalidateQueries({ queryKey: ["asked", id, "pick", aim] });
  };
  return (
    <Line role="status">
      <span>
        {w.search[underway.state](words.aims[aim])}
        {underway.told && ` ${underway.told}`}
        {underway.best != null && <b>{w.bestSoFar(write(underway.best))}</b>}
        {underway.bound > 0 && <b>{w.nothingUnder(write(underway.bound))}</b>}
      </span>
      <Word aria-label={`${searched ? w.stop : w.again}: ${words.aims[aim]}`} onPress={act}>
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
