import styled from "styled-components";
import type { Difference } from "../api/client";
import { words } from "../words";

const w = words.catalogues;
const SHOWN = 300;

/** What two editions do not share, line by line. */
export function Differences({ lines }: { lines: readonly Difference[] }) {
  return (
    <List>
      {lines.slice(0, SHOWN).map((line) => (
        <li key={`${line.what}-${line.key}`} data-what={line.what}>
          <b>{w.what[line.what]}</b>
          <span>{line.name}</span>
          <i>{line.told}</i>
        </li>
      ))}
      {lines.length > SHOWN && <li>{words.priceLists.andMore(lines.length - SHOWN)}</li>}
    </List>
  );
}

const List = styled.ul`
  li { display: grid; grid-template-columns: 70px minmax(0, 1.2fr) minmax(0, 1.6fr); gap: 12px; padding: 4px 0; border-bottom: 1px solid var(--rule); align-items: baseline; }
  b { font-weight: 600; color: var(--slate); }
  [data-what="gone"] b { color: var(--clay); }
  [data-what="new"] b { color: var(--moss); }
  i { font-style: normal; color: var(--faint); }
`;
