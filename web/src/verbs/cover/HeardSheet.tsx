import styled from "styled-components";
import type { Heard } from "../../api/client";
import { exact, figure, length, lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";

const w = words.signal;

/** Every access point that is heard at the spot that was pressed, and where the loss comes from. */
export function HeardSheet({ heard, names }: { heard: readonly Heard[]; names: ReadonlyMap<number, string> }) {
  return (
    <Section aria-label={w.heardHere} aria-live="polite">
      <Heading>
        <h2>{w.heardHere}</h2>
        {!heard.length && <span>{w.nothing}</span>}
      </Heading>
      <ul>
        {heard.map((one) => (
          <li key={`${one.drop_id} ${one.band}`}>
            <b>{names.get(one.drop_id)}</b>
            <span>{w.bands[one.band]}</span>
            <i>{`${exact(one.dbm)} dBm`}</i>
            <i data-lost={!one.is_heard || undefined}>
              {one.is_heard ? `${w.up} ${figure(one.uplink_dbm)} dBm` : w.notHeard}
            </i>
            <em>
              {`${length(one.distance_m)} ${lengthUnit()}: ${one.parts
                .map((part) => `${part.count > 1 ? `${part.count} × ` : ""}${part.what} ${exact(part.db)}`)
                .join(" + ")} dB`}
            </em>
          </li>
        ))}
      </ul>
    </Section>
  );
}

const Section = styled.section`
  min-height: 0; display: grid; grid-template-rows: auto minmax(0, 1fr);
  ul { overflow: auto; border-top: 1px solid var(--ink); }
  li {
    display: grid; grid-template-columns: minmax(0, 1fr) 58px 84px 124px minmax(0, 2.6fr); gap: 10px; padding: 3px 2px;
    border-bottom: 1px solid var(--rule); align-items: baseline;
  }
  b { font-weight: 550; }
  i { font-style: normal; text-align: right; }
  i[data-lost] { color: var(--clay); }
  em { font-style: normal; color: var(--faint); }
  ${NARROW} { ul { max-height: 50vh; } li { grid-template-columns: minmax(0, 1fr) auto auto; } em { grid-column: 1 / -1; } i:nth-of-type(2) { display: none; } }
`;
