import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import styled from "styled-components";
import { data, http } from "../../api/client";
import { useWork } from "../../api/work";
import { Word } from "../../kit/parts";
import { words } from "../../words";
import { AddRoom } from "./AddRoom";

const w = words.tally;

/** A project without rooms: its first action, and nothing else. */
export function EmptyWalk() {
  const { id, edit } = useWork();
  const starters = useQuery({
    queryKey: ["starters"],
    queryFn: () => data(http.GET("/api/room-starters")),
    staleTime: Infinity,
  });
  return (
    <Page>
      <h2>{w.emptyTitle}</h2>
      <p>{w.emptyLead}</p>
      <ul>
        {starters.data?.map((starter, place) => (
          <li key={starter.name}>
            <Word autoFocus={place === 0} onPress={() => edit({ type: "add_rooms", rooms: starter.rooms })}>
              {w.emptyTake(starter.name)}
            </Word>
            <span>{starter.rooms.map((room) => room.name).join(", ")}</span>
            <Word
              aria-label={`${starter.name} ${w.emptyWithDrops(count(starter))}`}
              onPress={() =>
                edit(
                  { type: "add_rooms", rooms: starter.rooms },
                  { type: "add_list", name: starter.name, drops: starter.drops },
                )
              }
            >
              {w.emptyWithDrops(count(starter))}
            </Word>
          </li>
        ))}
      </ul>
      <AddRoom />
      <Link to={`/projects/${id}/walk/list`}>{w.emptyList}</Link>
    </Page>
  );
}

const count = (starter: { drops: { count?: unknown }[] }) =>
  starter.drops.reduce((sum, drop) => sum + Number(drop.count ?? 1), 0);

const Page = styled.div`
  padding: 42px 16px 20px 40px; max-width: 720px;
  h2 { font: 600 26px var(--voice); }
  p { font: 16px var(--voice); color: var(--faint); margin: 6px 0 20px; }
  li { display: grid; grid-template-columns: 150px 1fr 150px; align-items: baseline; gap: 16px; padding: 9px 0; border-bottom: 1px solid var(--rule); }
  li span { color: var(--faint); }
  ul { margin-bottom: 20px; border-top: 1px solid var(--ink); }
`;
