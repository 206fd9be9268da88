import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { data, http } from "../api/client";
import { Word } from "../kit/parts";
import { words } from "../words";
import { Differences } from "./Differences";

const w = words.catalogues;

/** The editions of a price list, newest first, and what each changed. */
export function Editions({ id }: { id: number }) {
  const [open, setOpen] = useState<number | null>(null);
  const editions = useQuery({
    queryKey: ["editions", id],
    queryFn: () =>
      data(http.GET("/api/catalogues/{catalogue_id}/editions", { params: { path: { catalogue_id: id } } })),
  });
  const changed = useQuery({
    queryKey: ["editions", id, "changed", open],
    enabled: open !== null && open > 1,
    queryFn: () =>
      data(
        http.GET("/api/catalogues/{catalogue_id}/differences", {
          params: { path: { catalogue_id: id }, query: { since: (open ?? 2) - 1, edition: open } },
        }),
      ),
  });
  return (
    <List aria-label={w.views.editions}>
      {editions.data?.map((edition) => (
        <li key={edition.number}>
          <b>{edition.number}</b>
          <span>
            {edition.told}{" "}
            <i>
              {w.by} {edition.account}
            </i>
          </span>
          <i>
            {w.priced} {edition.priced_on}
          </i>
          <time dateTime={edition.at}>{edition.at.slice(0, 16).replace("T", " ")}</time>
          {edition.number > 1 ? (
            <Word
              aria-label={`${w.changesOf}: ${w.edition(edition.number)}`}
              onPress={() => setOpen(open === edition.number ? null : edition.number)}
            >
              {open === edition.number ? w.hide : w.changesOf}
            </Word>
          ) : (
            <i>{w.first}</i>
          )}
          {open === edition.number &&
            changed.data &&
            (changed.data.length ? <Differences lines={changed.data} /> : <p>{w.nothingBetween}</p>)}
        </li>
      ))}
    </List>
  );
}

const List = styled.ul`
  padding: 10px 16px 24px; max-width: 940px; min-width: 0;
  > li { display: grid; grid-template-columns: 34px minmax(0, 1fr) auto auto 120px; gap: 18px; padding: 6px 0; border-bottom: 1px solid var(--rule); align-items: baseline; }
  > li > b { font: 600 16px var(--voice); text-align: right; }
  i, time { font-style: normal; color: var(--faint); white-space: nowrap; }
  > li > ul, > li > p { grid-column: 2 / -1; padding-bottom: 8px; }
  @media (max-width: 860px) { > li { grid-template-columns: 34px minmax(0, 1fr); } > li > :nth-child(n + 3) { grid-column: 2; } }
`;
