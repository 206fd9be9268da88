import styled from "styled-components";
import type { PathFill } from "../../api/client";
import { useWork } from "../../api/work";
import { length, lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { words } from "../../words";

const w = words.reach;

/** Every path with what it holds; choosing one opens its sheet. */
export function PathList({ fills }: { fills: readonly PathFill[] }) {
  const { outcome, choose } = useWork();
  const { paths } = outcome.project;
  const held = new Map(fills.map((fill) => [fill.path_id, fill]));
  if (!paths.length) return null;
  return (
    <List aria-label={w.paths}>
      <Heading>
        <h2>{w.paths}</h2>
      </Heading>
      <ul>
        {paths.map((path) => {
          const fill = held.get(path.id);
          return (
            <li key={path.id}>
              <button type="button" onClick={() => choose({ path: path.id, drops: new Set() })}>
                <span>{path.name}</span>
                <i>{fill && fill.length_m > 0 ? `${length(fill.length_m)} ${lengthUnit()}` : ""}</i>
                <i>{fill && w.holds(fill.drop_ids.length)}</i>
              </button>
            </li>
          );
        })}
      </ul>
    </List>
  );
}

const List = styled.section`
  ul { border-top: 1px solid var(--ink); }
  li { border-bottom: 1px solid var(--rule); }
  button { display: grid; grid-template-columns: minmax(0, 1fr) 62px 52px; gap: 8px; width: 100%; background: none; border: 0; padding: 3px 0; text-align: left; cursor: pointer; }
  button:hover { background: var(--earth); }
  span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  i { font-style: normal; color: var(--faint); text-align: right; }
`;
