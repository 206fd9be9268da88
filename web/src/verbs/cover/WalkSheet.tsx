import styled from "styled-components";
import type { Roamed } from "../../api/client";
import { useWork } from "../../api/work";
import { Amount } from "../../kit/fields";
import { exact, figure, length, lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";

const w = words.signal;

/** A phone carried along a walk: which access point it is with, and where it clings to one that is not the best. */
export function WalkSheet({ walk, names }: { walk: Roamed; names: ReadonlyMap<number, string> }) {
  const { outcome, edit } = useWork();
  return (
    <Section aria-label={w.carried} aria-live="polite">
      <Heading>
        <h2>{w.carried}</h2>
        <span>{w.carriedIs(walk.moves, `${length(walk.clings_m)} ${lengthUnit()}`, exact(walk.sticky_db))}</span>
        <span>
          {w.sticky}{" "}
          <Amount
            label={w.sticky}
            value={outcome.project.settings.sticky_db ?? 8}
            most={40}
            set={(sticky_db) => edit({ type: "change_settings", changes: { sticky_db: sticky_db ?? 8 } })}
          />{" "}
          {w.stickyWhy}
        </span>
      </Heading>
      <ul>
        {walk.stretches.map((one) => (
          <li key={one.points[0]?.join()} data-clings={one.clings || undefined}>
            <b>{names.get(one.drop_id)}</b>
            <i>{`${length(one.length_m)} ${lengthUnit()}`}</i>
            <i>{w.least(figure(one.least_dbm))}</i>
            <em>{one.better_id == null ? w.best : w.clings(names.get(one.better_id) ?? "")}</em>
          </li>
        ))}
      </ul>
    </Section>
  );
}

/** The walk on the plan: thin where the phone hears what it has best, thick where it clings. */
export function Carried({ walk, px }: { walk: Roamed; px: number }) {
  return (
    <Line data-role="walk">
      {walk.stretches.map((one) => (
        <polyline
          key={one.points[0]?.join()}
          points={one.points.map((spot) => spot.join(",")).join(" ")}
          strokeWidth={(one.clings ? 6 : 2) * px}
        />
      ))}
    </Line>
  );
}

const Line = styled.g`
  pointer-events: none;
  polyline { fill: none; stroke: var(--clay); stroke-linejoin: round; stroke-linecap: round; opacity: 0.85; }
`;
const Section = styled.section`
  min-height: 0; display: grid; grid-template-rows: auto minmax(0, 1fr);
  h2 ~ span input { width: 5ch; text-align: right; background: none; border: 0; border-bottom: 1px dotted var(--faint); }
  ul { overflow: auto; border-top: 1px solid var(--ink); }
  li {
    display: grid; grid-template-columns: minmax(0, 1fr) 80px 120px minmax(0, 1.4fr); gap: 10px; padding: 3px 2px;
    border-bottom: 1px solid var(--rule); align-items: baseline;
  }
  b { font-weight: 550; }
  i { font-style: normal; text-align: right; color: var(--faint); }
  em { font-style: normal; }
  li[data-clings] em { color: var(--clay); }
  ${NARROW} { li { grid-template-columns: minmax(0, 1fr) auto; } i:nth-of-type(2) { display: none; } }
`;
