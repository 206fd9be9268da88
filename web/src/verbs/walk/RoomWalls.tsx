import styled from "styled-components";
import type { Layout, Room } from "../../api/client";
import type { Values } from "../../api/edits";
import { addTo, changeIn } from "../../api/edits";
import { useWork } from "../../api/work";
import { useLayout } from "../../instruments/plan/useLayout";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { length, lengthUnit } from "../../kit/figures";
import { words } from "../../words";

const w = words.roomSheet;
type Piece = Layout["walls"][number];

/** The walls of a room piece by piece: what each is made of and how thick it is. */
export function RoomWalls({ room }: { room: Room }) {
  const layout = useLayout();
  const pieces = layout?.layout.walls.filter((piece) => piece.room_ids.includes(room.id)) ?? [];
  return (
    <Pieces aria-label={w.wall}>
      {pieces.map((piece) => (
        <OnePiece key={`${piece.start.join()} ${piece.end.join()}`} piece={piece} room={room} />
      ))}
    </Pieces>
  );
}

function OnePiece({ piece, room }: { piece: Piece; room: Room }) {
  const { outcome, edit } = useWork();
  const other = outcome.project.rooms.find((one) => one.id !== room.id && piece.room_ids.includes(one.id));
  const [[x_m = 0, y_m = 0], [to_x_m = 0, to_y_m = 0]] = [piece.start, piece.end];
  const metres = `${length(Math.hypot(to_x_m - x_m, to_y_m - y_m), 2)} ${lengthUnit()}`;
  const beside = other ? w.to(other.name) : w.outer;
  const name = `${w.piece(metres)}, ${beside}`;
  const say = (said: Values<"walls">) =>
    piece.wall_id
      ? edit(changeIn("walls", piece.wall_id, said))
      : edit(addTo("walls", { floor_id: room.floor_id, x_m, y_m, to_x_m, to_y_m, material: piece.material, ...said }));
  const asRooms = () =>
    piece.wall_id ? edit({ type: "remove_entry", list: "walls", id: piece.wall_id }) : Promise.resolve(true);
  const materials = optionsOf(w.walls);
  return (
    <li>
      <b>{metres}</b>
      <span title={beside}>{beside}</span>
      <Choice<Piece["material"] | "">
        label={name}
        value={piece.material}
        options={piece.wall_id ? [...materials, ["", w.asRooms]] : materials}
        set={(material) => (material ? say({ material }) : asRooms())}
      />
      <Amount
        label={`${w.thickness}, ${name}`}
        value={piece.thickness_known ? piece.thickness_mm : null}
        usual={piece.thickness_mm}
        least={2}
        most={2000}
        set={(thickness_mm) => say({ thickness_mm })}
      />
      <i>mm</i>
    </li>
  );
}

const Pieces = styled.ul`
  li {
    display: grid; grid-template-columns: 48px minmax(0, 1fr) 80px 4.5ch auto; gap: 6px; align-items: baseline;
    padding: 2px 0; border-bottom: 1px solid var(--rule);
  }
  b { font-weight: 550; text-align: right; white-space: nowrap; }
  span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; color: var(--faint); }
  i { font-style: normal; color: var(--faint); }
`;
