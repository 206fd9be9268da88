import { Link } from "react-router";
import styled from "styled-components";
import type { ViewLine } from "../../api/client";
import { useWork } from "../../api/work";
import { figure, length, lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { words } from "../../words";
import { keyOf } from "./useCover";

const w = words.cover;

/** Every view, with how far it recognises; pressing one chooses its camera. */
export function ViewList({ views }: { views: readonly ViewLine[] }) {
  const { id, outcome, choose } = useWork();
  const roomOf = new Map(outcome.project.drops.map((drop) => [drop.id, drop.room_id]));
  return (
    <section aria-label={w.views_}>
      <Heading>
        <h2>{w.views_}</h2>
      </Heading>
      <List>
        {views.map((view) => (
          <li key={keyOf(view)}>
            <button
              type="button"
              onClick={() => choose({ drops: new Set([view.drop_id]), roomId: roomOf.get(view.drop_id) ?? null })}
            >
              <b>{view.name}</b>
              {view.placed && (
                <span>{`${figure(view.across_deg)}°, ${w.details.recognise} ${length(view.bands[2]?.reach_m ?? 0)} ${lengthUnit()}`}</span>
              )}
            </button>
            {!view.placed && <Link to={`/projects/${id}/walk/plan`}>{w.notPlaced}</Link>}
          </li>
        ))}
      </List>
    </section>
  );
}

const List = styled.ul`
  border-top: 1px solid var(--ink);
  li { border-bottom: 1px solid var(--rule); display: flex; align-items: baseline; gap: 10px; }
  a { font-stretch: 84%; white-space: nowrap; }
  button {
    display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 10px; width: 100%; background: none; border: 0;
    padding: 4px 0; text-align: left; cursor: pointer; align-items: baseline;
  }
  button:hover { background: var(--earth); }
  b { font-weight: 550; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  span { color: var(--faint); font-stretch: 84%; }
`;
