import styled from "styled-components";
import type { Edit, SignalFor } from "../../api/client";
import { useWork } from "../../api/work";
import { exact, figure, length, lengthUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { useGoalName } from "./useSignal";

const w = words.signal;
const metres = (value: number) => `${length(value, 1)} ${lengthUnit()}`;

/** The goals of Wi-Fi and how far each is met; access points over the air, and halls. */
export function SignalTables({ signal, names }: { signal: SignalFor; names: ReadonlyMap<number, string> }) {
  const { outcome, edit } = useWork();
  const { rooms, drops } = outcome.project;
  const nameOf = useGoalName();
  // what Load counts less of than clients ask, each to be typed with one press
  const more = signal.stations.flatMap((station) => {
    const mbit = Math.ceil(station.asked_mbit);
    const drop = drops.find((one) => one.id === station.drop_id);
    return mbit && !drop?.over_wifi && drop?.traffic_mbit !== mbit ? [{ id: station.drop_id, mbit }] : [];
  });
  return (
    <Section aria-label={w.goals}>
      <Heading>
        <h2>{w.goals}</h2>
        {!signal.goals.length && <span>{w.noGoals}</span>}
        {more.length > 0 && (
          <Word
            onPress={() =>
              edit(
                ...more.map(
                  ({ id, mbit }): Edit => ({ type: "change_drops", ids: [id], changes: { traffic_mbit: mbit } }),
                ),
              )
            }
          >
            {w.load}
          </Word>
        )}
      </Heading>
      <ul>
        {signal.goals.map((line) => {
          const { worst } = line;
          return (
            <li key={line.goal_id} data-met={line.met ?? undefined}>
              <b>{nameOf(line.goal_id)}</b>
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
        {signal.mesh.map((line) => (
          <li key={`mesh ${line.drop_id} ${line.band}`} data-met={line.hops.length > 0}>
            <b>{names.get(line.drop_id)}</b>
            <span>{w.mesh}</span>
            <em>{line.hops.length ? "" : w.meshNone}</em>
            <i />
            <i>
              {line.hops.length ? w.meshIs(w.bands[line.band], line.hops.length, figure(line.throughput_mbit)) : ""}
            </i>
          </li>
        ))}
        {signal.halls.map((hall) => (
          <Hall key={hall.room_id}>
            <p>
              <b>{rooms.find((room) => room.id === hall.room_id)?.name}</b>{" "}
              {w.hallIs(metres(hall.to_next_m), metres(hall.to_client_m))} {hall.serves_wrong && <em>{w.hallWrong}</em>}
            </p>
            <table aria-label={w.lattices}>
              <caption>{w.lattices}</caption>
              <thead>
                <tr>
                  {w.latticeHeads.map((head) => (
                    <th key={head} scope="col">
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {hall.lattices.map((line) => (
                  <tr key={`${line.lattice} ${line.antenna}`}>
                    <td>{w.lattice[line.lattice]}</td>
                    <td>{w.antenna[line.antenna]}</td>
                    <td>{metres(line.to_next_m)}</td>
                    <td>{metres(line.to_client_m)}</td>
                    <td>{figure(line.client_dbm)} dBm</td>
                    <td>{figure(line.next_dbm)} dBm</td>
                    <td data-wrong={line.serves_wrong || undefined}>{line.serves_wrong ? w.wrong : w.right}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Hall>
        ))}
      </ul>
    </Section>
  );
}

const Hall = styled.li`
  && { display: block; padding: 6px 2px; }
  table { border-collapse: collapse; width: 100%; font-stretch: 90%; }
  caption { text-align: left; color: var(--faint); padding: 3px 0; }
  th, td { text-align: left; font-weight: 400; padding: 1px 10px 1px 0; }
  th { color: var(--faint); border-bottom: 1px solid var(--rule); }
  td[data-wrong] { color: var(--clay); }
`;
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
