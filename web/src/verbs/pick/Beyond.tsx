import { useState } from "react";
import styled from "styled-components";
import { type BeyondFor, data, http, type RoomPorts, type RoomsTogether } from "../../api/client";
import { useAsked, useWork } from "../../api/work";
import { Choice, ChoiceButton } from "../../kit/Choice";
import { figure, money, speed } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { words } from "../../words";
import { Search } from "./Search";

const w = words.beyond;
const WAYS = ["cables", "switch"] as const;

/** For every room that wants several ports: a cable each against one cable and a switch there, all counted. */
export function Beyond({ revision }: { revision: number }) {
  const { id, outcome, edit } = useWork();
  const { settings } = outcome.project;
  const [asked, setAsked] = useState(false);
  const beyond = useAsked<BeyondFor>(["beyond", revision], asked, (signal) =>
    data(http.GET("/api/projects/{project_id}/beyond", { params: { path: { project_id: id } }, signal })),
  );
  const { reply, underway } = beyond.data ?? {};
  return (
    <Place aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>{w.lead}</span>
        <span className="way">
          {w.way}:{" "}
          <Choice
            label={w.way}
            value={settings.room_ports}
            options={WAYS.map((key) => [key, w.ways[key]] as const)}
            set={(way) => edit({ type: "change_settings", changes: { room_ports: way as "cables" | "switch" } })}
          />
        </span>
        {!asked && <Word onPress={() => setAsked(true)}>{w.ask}</Word>}
      </Heading>
      {asked && underway && (
        <Search of={w.title} question={{ type: "beyond", aim: "least_price" }} underway={underway} />
      )}
      {asked && reply && (reply.rooms.length ? <Rooms rooms={reply.rooms} /> : <p className="none">{w.none}</p>)}
      {asked && reply?.together && <Together of={reply.together} rooms={reply.rooms} />}
    </Place>
  );
}

function Together({ of, rooms }: { of: RoomsTogether; rooms: readonly RoomPorts[] }) {
  const { outcome, edit } = useWork();
  const taken = rooms.filter((room) => of.room_ids.includes(room.room_id));
  return (
    <p className="together">
      {w.together(taken.map((room) => room.room).join(", "), money(-of.more_minor, outcome.project.settings.currency))}{" "}
      {(of.proven ? w.bestOf : w.unprovenOf)(of.of)}{" "}
      <Word onPress={() => edit(...taken.map((room) => room.edit))}>{w.takeAll}</Word>
    </p>
  );
}

function Rooms({ rooms }: { rooms: readonly RoomPorts[] }) {
  const { outcome, edit } = useWork();
  const { currency, room_ports: way } = outcome.project.settings;
  return (
    <div className="scroll">
      <table>
        <thead>
          <tr>
            <th scope="col">{w.room}</th>
            <th scope="col" className="r">
              {w.ports}
            </th>
            <th scope="col" className="r">
              {w.cables}
            </th>
            <th scope="col" className="r">
              {w.switch}
            </th>
            <th scope="col">{w.difference}</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {rooms.map((room) => {
            const { speed_mbit, fed_class, draw_w, drop_ids } = room.edit;
            const fill = (room.traffic_mbit / speed_mbit) * 100;
            const cheaper = room.more_minor < 0;
            return (
              <tr key={room.room_id}>
                <th scope="row">{room.room}</th>
                <td className="r" data-label={w.ports}>
                  {drop_ids.length}
                </td>
                <td className="r" data-label={w.cables} data-way={way === "cables" || undefined}>
                  {money(room.cables_minor, currency)}
                </td>
                <td className="r" data-label={w.switch} data-way={way === "switch" || undefined}>
                  {money(room.one_cable_minor + room.switch_minor + room.pick_minor, currency)}
                </td>
                <td title={room.sentence}>
                  <b data-cheaper={cheaper || undefined}>
                    {(cheaper ? w.less : w.more)(money(Math.abs(room.more_minor), currency))}
                  </b>
                  <i>
                    {room.name}, {speed(speed_mbit)}; {w.upstream(figure(Math.round(fill)))},{" "}
                    {fed_class === null ? w.socket(figure(draw_w)) : w.fed(figure(room.closet_w))}
                  </i>
                </td>
                <td>
                  <Word aria-label={`${w.take}: ${room.room}`} onPress={() => edit(room.edit)}>
                    {w.take}
                  </Word>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

const Place = styled.section`
  padding: 8px 16px 14px; border-bottom: 1px solid var(--ink);
  .way ${ChoiceButton} { border-bottom-color: var(--ink); color: var(--ink); }
  .scroll { overflow-x: auto; }
  table { width: 100%; border-top: 1px solid var(--rule); }
  tr { border-bottom: 1px solid var(--rule); }
  th, td { text-align: left; font-weight: 400; padding: 4px 18px 4px 0; vertical-align: baseline; white-space: nowrap; }
  thead th { color: var(--faint); }
  .r { text-align: right; }
  [data-way] { font-weight: 600; }
  td b { display: inline-block; min-width: 92px; font-weight: 600; color: var(--ochre); }
  td b[data-cheaper] { color: var(--moss); }
  td i { font-style: normal; color: var(--faint); margin-left: 10px; }
  @media (max-width: 700px) {
    table, tbody { display: block; }
    thead { display: none; }
    tr { display: grid; padding: 7px 0; gap: 1px; }
    th, td { padding: 0; white-space: normal; }
    th { font-weight: 600; }
    [data-label] { display: flex; justify-content: space-between; }
    [data-label]::before { content: attr(data-label); color: var(--faint); font-weight: 400; }
    td i { display: block; margin-left: 0; }
  }
  > .none, > .together { font: 15px/1.4 var(--voice); padding-top: 4px; }
`;
