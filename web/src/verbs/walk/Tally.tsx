import { Fragment, type KeyboardEvent, memo, useCallback, useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import type { Room } from "../../api/client";
import { useChosen, useWork } from "../../api/work";
import { figure } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { AddRoom } from "./AddRoom";
import { type Column, columnOf, columnsOf } from "./columns";
import { OwnKinds } from "./OwnKinds";

const w = words.tally;
const MOST = 500;
const NEXT_DIGIT_MS = 900;

/** Rooms down, kinds of drop across; digits are typed straight in. */
export function Tally() {
  const { outcome, kinds, edit, choose } = useWork();
  const chosen = useChosen();
  const { rooms, drops, own_kinds: ownKinds } = outcome.project;
  const columns = useMemo(() => columnsOf(kinds, ownKinds), [kinds, ownKinds]);
  const watts = outcome.balance.drop_watts;
  const [typed, setTyped] = useState<ReadonlyMap<string, number>>(new Map());
  const grid = useRef<HTMLTableElement>(null);
  const lastDigit = useRef({ cell: "", at: 0 });

  const counts = useMemo(() => {
    const cells = new Map<string, number>();
    for (const drop of drops) {
      const key = cellKey(drop.room_id, columnOf(drop));
      cells.set(key, (cells.get(key) ?? 0) + 1);
    }
    return cells;
  }, [drops]);
  const count = useCallback((key: string) => typed.get(key) ?? counts.get(key) ?? 0, [typed, counts]);
  const roomWatts = useMemo(() => {
    const sums = new Map<number, number>();
    for (const drop of drops) sums.set(drop.room_id, (sums.get(drop.room_id) ?? 0) + (watts[String(drop.id)] ?? 0));
    return sums;
  }, [drops, watts]);

  const at = {
    row: Math.max(
      0,
      rooms.findIndex((room) => room.id === chosen.roomId),
    ),
    column: Math.max(
      0,
      columns.findIndex((column) => column.id === chosen.kind),
    ),
  };
  const focus = useCallback((roomId: number, kind: string) => {
    grid.current?.querySelector<HTMLElement>(`[data-cell="${cellKey(roomId, kind)}"]`)?.focus();
  }, []);
  // rooms that have just come (a starter, the first of all) take the keyboard at once
  const known = useRef(rooms.length);
  useEffect(() => {
    const first = rooms[0];
    const column = columns[0];
    if (first && column && (document.activeElement === document.body || document.activeElement === null)) {
      focus(first.id, column.id);
    }
    known.current = rooms.length;
  }, [rooms, columns, focus]);

  const set = (room: Room, column: Column, value: number) => {
    const key = cellKey(room.id, column.id);
    const wanted = Math.max(0, Math.min(MOST, value));
    if (wanted === count(key)) return;
    setTyped((now) => new Map(now).set(key, wanted));
    edit({
      type: "set_tally",
      room_id: room.id,
      kind: column.kind,
      own_kind_id: column.own,
      count: wanted,
    }).finally(() =>
      setTyped((now) => {
        const rest = new Map(now);
        if (rest.get(key) === wanted) rest.delete(key);
        return rest;
      }),
    );
  };

  const press = (event: KeyboardEvent<HTMLTableElement>) => {
    const cell = (event.target as HTMLElement).closest<HTMLElement>("[data-cell]");
    const room = rooms[at.row];
    const here = columns[at.column];
    if (!cell || !room || !here || event.ctrlKey || event.metaKey || event.altKey) return;
    const key = cellKey(room.id, here.id);
    const move = (row: number, column: number) => {
      if (row >= rooms.length) document.getElementById("add-room")?.focus();
      const toRoom = rooms[Math.max(0, Math.min(rooms.length - 1, row))];
      const to = columns[Math.max(0, Math.min(columns.length - 1, column))];
      if (toRoom && to && row < rooms.length) focus(toRoom.id, to.id);
    };
    const to = destination(event.key, at.row, at.column, columns.length);
    if (/^\d$/.test(event.key)) {
      const again = lastDigit.current.cell === key && performance.now() - lastDigit.current.at < NEXT_DIGIT_MS;
      set(room, here, again ? count(key) * 10 + Number(event.key) : Number(event.key));
      lastDigit.current = { cell: key, at: performance.now() };
    } else if (to) {
      move(...to);
    } else if (event.key === "+" || event.key === "-") {
      set(room, here, count(key) + (event.key === "+" ? 1 : -1));
    } else if (event.key === "Delete" || event.key === "Backspace") {
      set(room, here, 0);
    } else {
      return;
    }
    event.preventDefault();
    event.stopPropagation();
  };

  const here = {
    room: rooms.find((room) => room.id === chosen.roomId),
    column: columns.find((column) => column.id === chosen.kind),
    key: cellKey(chosen.roomId ?? 0, chosen.kind ?? ""),
  };
  const total = (column: string) => rooms.reduce((sum, room) => sum + count(cellKey(room.id, column)), 0);
  const roomTotal = (room: Room) => columns.reduce((sum, column) => sum + count(cellKey(room.id, column.id)), 0);
  const all = rooms.reduce((sum, room) => sum + roomTotal(room), 0);
  const floors = [...new Set(rooms.map((room) => room.floor_id))];
  const floorName = (id: number) => outcome.project.floors.find((floor) => floor.id === id)?.name ?? "";
  return (
    <section aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>
          {w.summary(all, rooms.length)}
          <i> · {w.hint}</i>
        </span>
        <OwnKinds />
      </Heading>
      <Scroll>
        <Grid ref={grid} role="grid" aria-label={w.title} onKeyDown={press}>
          <thead>
            <tr>
              <th scope="col">{w.room}</th>
              {columns.map((column) => (
                <th key={column.id} scope="col" title={column.plural}>
                  {column.head}
                </th>
              ))}
              <th scope="col" className="sum">
                {w.drops}
              </th>
              <th scope="col" className="sum">
                {w.watts}
              </th>
            </tr>
          </thead>
          <tbody>
            {floors.map((floor) => (
              <Fragment key={floor}>
                <tr className="floor">
                  <th colSpan={columns.length + 3} scope="colgroup">
                    {floorName(floor)}
                  </th>
                </tr>
                {rooms
                  .filter((room) => room.floor_id === floor)
                  .map((room) => (
                    <tr key={room.id} data-chosen={room.id === chosen.roomId || undefined}>
                      <th scope="row">
                        <RoomName room={room} />
                      </th>
                      {columns.map((column, place) => {
                        const key = cellKey(room.id, column.id);
                        const first = at.column === place && rooms[at.row]?.id === room.id;
                        return (
                          <Cell
                            key={column.id}
                            id={key}
                            label={w.cell(room.name, column.plural)}
                            value={count(key)}
                            powered={column.powered}
                            tabbable={first}
                            choose={() => choose({ roomId: room.id, kind: column.id, drops: new Set() })}
                          />
                        );
                      })}
                      <td className="sum">{roomTotal(room)}</td>
                      <td className="sum">{figure(roomWatts.get(room.id) ?? 0)}</td>
                    </tr>
                  ))}
              </Fragment>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <th scope="row">{w.all}</th>
              {columns.map((column) => (
                <td key={column.id}>{total(column.id) || ""}</td>
              ))}
              <td className="sum">{all}</td>
              <td className="sum">{figure(outcome.balance.watts)}</td>
            </tr>
          </tfoot>
        </Grid>
      </Scroll>
      {here.room && here.column && (
        <Stepper role="group" aria-label={w.cell(here.room.name, here.column.plural)}>
          <span>{w.cell(here.room.name, here.column.plural)}</span>
          <Step number={-1} set={(change) => set(here.room as Room, here.column as Column, count(here.key) + change)} />
          <b>{count(here.key)}</b>
          <Step number={1} set={(change) => set(here.room as Room, here.column as Column, count(here.key) + change)} />
        </Stepper>
      )}
      <AddRoom />
    </section>
  );
}

/** For a thumb: one less or one more in the chosen cell. */
function Step({ number, set }: { number: 1 | -1; set: (change: number) => void }) {
  return (
    <button type="button" aria-label={number > 0 ? w.more : w.less} onClick={() => set(number)}>
      {number > 0 ? "+" : "−"}
    </button>
  );
}

/** Where a key leads from a cell: row and column, or nowhere. */
function destination(key: string, row: number, column: number, columns: number): [number, number] | null {
  switch (key) {
    case "ArrowUp":
      return [row - 1, column];
    case "ArrowDown":
    case "Enter":
      return [row + 1, column];
    case "ArrowLeft":
      return [row, column - 1];
    case "ArrowRight":
      return [row, column + 1];
    case "Home":
      return [row, 0];
    case "End":
      return [row, columns - 1];
    default:
      return null;
  }
}

const cellKey = (roomId: number, kind: string) => `${roomId}-${kind}`;

interface CellProps {
  id: string;
  label: string;
  value: number;
  powered: boolean;
  tabbable: boolean;
  choose: () => void;
}

const Cell = memo(
  function Cell(props: CellProps) {
    return (
      <td
        data-cell={props.id}
        data-powered={(props.powered && props.value > 0) || undefined}
        tabIndex={props.tabbable ? 0 : -1}
        aria-label={`${props.label}: ${props.value}`}
        onFocus={props.choose}
      >
        {props.value || <i>·</i>}
      </td>
    );
  },
  (a, b) => a.id === b.id && a.value === b.value && a.tabbable === b.tabbable && a.label === b.label,
);

/** The name of a room, changed where it stands; the chosen room can be removed. */
function RoomName({ room }: { room: Room }) {
  const { edit, choose } = useWork();
  const chosen = useChosen();
  const [name, setName] = useState(room.name);
  useEffect(() => setName(room.name), [room.name]);
  const commit = () => {
    if (name.trim() && name.trim() !== room.name) {
      edit({ type: "change_room", id: room.id, changes: { name: name.trim() } });
    } else {
      setName(room.name);
    }
  };
  const mine = chosen.roomId === room.id;
  return (
    <Named>
      <input
        aria-label={w.rename(room.name)}
        value={name}
        maxLength={200}
        tabIndex={mine ? 0 : -1}
        onFocus={() => choose({ roomId: room.id, kind: null })}
        onChange={(event) => setName(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") setName(room.name);
          event.stopPropagation();
        }}
      />
      {mine && (
        <button
          type="button"
          aria-label={w.removeRoom(room.name)}
          title={w.removeRoom(room.name)}
          onClick={() => edit({ type: "remove_room", id: room.id })}
        >
          ×
        </button>
      )}
    </Named>
  );
}

const Scroll = styled.div`
  overflow-x: auto;
`;

const Stepper = styled.div`
  display: none; position: sticky; bottom: 0; z-index: 2; align-items: center; gap: 14px; padding: 6px 2px;
  background: var(--paper); border-top: 1px solid var(--ink);
  span { flex: 1; }
  b { min-width: 26px; text-align: center; font-size: 17px; }
  button { width: 48px; height: 44px; font-size: 22px; background: var(--earth); border: 0; cursor: pointer; }
  @media (pointer: coarse) { display: flex; }
  ${NARROW} { display: flex; }
`;

const Named = styled.div`
  display: flex; align-items: center;
  input { background: none; border: 0; padding: 0 2px; width: 100%; min-width: 88px; text-overflow: ellipsis; }
  button { background: none; border: 0; cursor: pointer; color: var(--clay); padding: 0 5px; line-height: 1; font-size: 15px; }
`;

const Grid = styled.table`
  width: 100%;
  th { font-weight: 400; text-align: left; white-space: nowrap; }
  thead th { font-size: 12.5px; font-stretch: 80%; color: var(--faint); text-align: right; padding: 3px 5px 4px 0; }
  thead th:first-child { text-align: left; padding-left: 2px; color: var(--ink); font-weight: 650; font-stretch: 92%; }
  thead .sum { color: var(--ink); font-weight: 650; }
  .floor th { font-size: 12.5px; color: var(--faint); padding: 4px 2px 1px; border-bottom: 1px solid var(--rule); }
  td { text-align: right; padding: 0 9px 0 0; height: 21px; min-width: 34px; }
  tbody th[scope="row"] { padding: 0 4px 0 6px; width: 136px; }
  ${NARROW} {
    tbody th[scope="row"], tfoot th { position: sticky; left: 0; z-index: 1; background: var(--paper); }
    tbody td { height: 30px; }
  }
  td i { color: var(--faint); font-style: normal; opacity: 0.55; }
  td[data-cell] { cursor: cell; }
  td[data-powered] { color: var(--clay); font-weight: 650; }
  td[data-cell]:focus { outline: 2px solid var(--clay); outline-offset: -1px; background: var(--sheet); }
  tr[data-chosen] > * { background: var(--earth); }
  tr[data-chosen] td[data-cell]:focus { background: var(--sheet); }
  .sum { font-weight: 650; border-left: 1px solid var(--rule); padding-left: 6px; min-width: 40px; }
  tfoot > tr > * { border-top: 1px solid var(--ink); font-weight: 650; height: 24px; }
  tfoot th { padding-left: 2px; }
`;
