import type { ReactNode } from "react";
import { useChosen, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { DropSheet } from "./DropSheet";
import { RoomSheet } from "./RoomSheet";

/** Beside a drawing: the drops that are chosen, else the room and what else belongs there, then the findings. */
export function Beside({ children }: { children?: ReactNode }) {
  const { outcome } = useWork();
  const chosen = useChosen();
  const drops = outcome.project.drops.filter((drop) => chosen.drops.has(drop.id));
  const room = outcome.project.rooms.find((one) => one.id === chosen.roomId);
  return (
    <div className="beside">
      {drops.length > 0 ? <DropSheet drops={drops} /> : room && <RoomSheet room={room} />}
      {drops.length === 0 && children}
      <Findings verb="walk" />
    </div>
  );
}
