import styled from "styled-components";
import type { SignalFor } from "../../api/client";
import { useWork } from "../../api/work";
import { exact, figure } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";

const w = words.signal;

/** The goals of Wi-Fi and how far each is met. */
export function SignalTables({ signal, names }: { signal: SignalFor; names: ReadonlyMap<number, string> }) {
  const { goals, rooms } = useWork().outcome.project;
  const roomNames = new Map(rooms.map((room) => [room.id, room.name]));
  return (
    <Section aria-label={w.goals}>
      <Heading>
        <h2>{w.goals}</h2>
        {!signal.goals.length && <span>{w.noGoals}</span>}
      </Heading>
      <ul>
        {signal.goals.map((line) => {
          const goal = (goals ?? []).find((one) => one.id === line.goal_id);
          const where = (goal?.room_ids ?? []).map((room) => roomNames.get(room)).join(", ");
          const { worst } = line;
          return (
            <li key={line.goal_id} data-met={line.met ?? undefined}>
              <b>{where || w.anywhere}</b>
              <span>
                {w.asks(exact(line.level_dbm), figure(line.share_wanted * 100))}
                {line.band ? `, ${w.bands[line.band]}` : ""}
              </span>
              <em>{line.share == null ? w.notPredicted : w.gets(figure(line.share * 100))}</em>
              <i>{worst?.dbm == null ? "" : w.least(figure(worst.dbm))}</i>
              <i>{worst?.hidden_by ? w.behind(worst.hidden_by) : (worst?.drop_id && names.get(worst.drop_id)) || ""}</i>
            </li>
          );
        })}
      </ul>
    </Section>
  );
}

const Section = styled.section`
  min-height: 0; display: grid; grid-template-rows: auto minmax(0, 1fr);
  ul { overflow: auto; border-top: 1px solid var(--ink); }
  li {
    display: grid; grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr) 110px 110px minmax(0, 1fr); gap: 10px; padding: 3px 2px;
    border-bottom: 1px solid var(--rule); align-items: baseline;
  }
  li > * { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-style: normal; }
  b { font-weight: 550; }
  i { color: var(--faint); }
  em { color: var(--clay); text-align: right; }
  li[data-met="true"] em { color: var(--moss); }
  i:nth-of-type(1) { text-align: right; }
  ${NARROW} { li { grid-template-columns: minmax(0, 1fr) auto; } li > :nth-child(2), i { display: none; } }
`;
