import type { Room, RoomChanges } from "../../api/client";
import { useWork } from "../../api/work";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount, Text } from "../../kit/fields";
import { lengthUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { RoomWalls } from "./RoomWalls";

const w = words.roomSheet;

/** A room: its name, floor, size and walls. */
export function RoomSheet({ room }: { room: Room }) {
  const { outcome, edit } = useWork();
  const floor = outcome.project.floors.find((one) => one.id === room.floor_id);
  const set = (changes: RoomChanges) => edit({ type: "change_room", id: room.id, changes });
  return (
    <Sheet aria-label={room.name}>
      <Heading>
        <h2>{room.name}</h2>
        <span>{room.outline ? w.drawn : w.laid}</span>
      </Heading>
      <Line label={w.name}>
        <Text label={w.name} value={room.name} set={(name) => set({ name })} />
      </Line>
      <Line label={w.floor}>
        <Text label={w.floor} value={floor?.name ?? ""} list="floor-names" set={(name) => set({ floor: name })} />
        <datalist id="floor-names">
          {outcome.project.floors.map((one) => (
            <option key={one.id} value={one.name} />
          ))}
        </datalist>
      </Line>
      <Line label={w.use}>
        <Choice label={w.use} value={room.use} options={optionsOf(w.uses)} set={(use) => set({ use })} />
      </Line>
      {!room.outline && (
        <Line label={w.size}>
          <Amount
            label={w.width}
            value={room.width_m ?? null}
            metres
            least={0.3}
            most={1000}
            set={(width_m) => set({ width_m })}
          />
          <i>×</i>
          <Amount
            label={w.depth}
            value={room.depth_m ?? null}
            metres
            least={0.3}
            most={1000}
            set={(depth_m) => set({ depth_m })}
          />
          <i>{lengthUnit()}</i>
        </Line>
      )}
      <Line label={w.wall}>
        <Choice label={w.wall} value={room.wall} options={optionsOf(w.walls)} set={(wall) => set({ wall })} />
      </Line>
      {room.outline && !room.outside && <RoomWalls room={room} />}
      <Line label={w.outside}>
        <Tick label={w.outside} value={room.outside} set={(outside) => set({ outside })} />
      </Line>
      <div className="acts">
        {room.outline && <Word onPress={() => set({ outline: null })}>{w.layOut}</Word>}
        <Word onPress={() => edit({ type: "remove_room", id: room.id })}>{w.remove}</Word>
      </div>
    </Sheet>
  );
}
