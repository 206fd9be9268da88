import styled from "styled-components";
import type { SpotSeen } from "../../api/client";
import { figure, length, lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { words } from "../../words";
import { steepness } from "./TargetTable";
import { keyOf } from "./useCover";

const w = words.cover;

/** Which cameras see the spot that was pressed, and how well. */
export function SpotSheet({ seen }: { seen: readonly SpotSeen[] }) {
  return (
    <section aria-label={w.seenHere} aria-live="polite">
      <Heading>
        <h2>{w.seenHere}</h2>
        {!seen.length && <span>{w.nobody}</span>}
      </Heading>
      <List>
        {seen.map((one) => (
          <li key={keyOf(one)} data-hidden={!one.seen || undefined}>
            <b>{one.name}</b>
            <span>{one.seen ? (one.detail ? w.details[one.detail] : "–") : w.hidden(one.blocked_by)}</span>
            <i>{`${figure(one.px_m)} ${words.targets.pxm}`}</i>
            <i>{`${length(one.distance_m)} ${lengthUnit()}`}</i>
            <i>{steepness(one.steep_deg)}</i>
          </li>
        ))}
      </List>
    </section>
  );
}

const List = styled.ul`
  border-top: 1px solid var(--ink);
  li {
    display: grid; grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr) 90px 64px 70px; gap: 10px; padding: 3px 2px;
    border-bottom: 1px solid var(--rule);
  }
  li[data-hidden] { color: var(--faint); }
  b { font-weight: 550; }
  i { font-style: normal; text-align: right; }
`;
