import { useState } from "react";
import { useChosen, useWork } from "../../api/work";
import { DrawingSurface } from "../../instruments/plan/DrawingSurface";
import { FloorPlan } from "../../instruments/plan/FloorPlan";
import { FloorTabs, useFloors } from "../../instruments/plan/FloorTabs";
import type { Spot } from "../../instruments/plan/geometry";
import { useLayout } from "../../instruments/plan/useLayout";
import { Chooser, type Option } from "../../kit/Choice";
import { Word } from "../../kit/parts";
import { words } from "../../words";
import { Beside } from "./Beside";
import { FloorSheet } from "./FloorSheet";
import { PlanPicture } from "./PlanPicture";

const w = words.plan;

const ownKey = (id: number) => `own/${id}`;

/** The plan of a floor: drops are put, dragged, nudged and aligned; rooms are drawn. */
export function PlanView() {
  const { outcome, edit, kinds, choose } = useWork();
  const chosen = useChosen();
  const layout = useLayout();
  const { rooms, floors, own_kinds: ownKinds } = outcome.project;
  const roomId = outcome.project.drops.find((drop) => chosen.drops.has(drop.id))?.room_id ?? chosen.roomId;
  const room = rooms.find((one) => one.id === roomId);
  const [picked, setPicked] = useState<number | null>(null);
  const [drawing, setDrawing] = useState(false);
  const [putting, setPutting] = useState("");
  const [spots, setSpots] = useState<readonly Spot[] | null>(null);
  const used = useFloors();
  const floor = floors.find((one) => one.id === (room?.floor_id ?? picked)) ?? used[0];
  if (!layout || !floor) return null;

  const chosenHere = layout.layout.drops.filter((spot) => chosen.drops.has(spot.id) && spot.floor_id === floor.id);
  const align = (axis: "x_m" | "y_m") => {
    const first = chosenHere[0];
    if (!first) return;
    const roomOf = new Map(outcome.project.drops.map((drop) => [drop.id, drop.room_id]));
    const places = chosenHere.map((spot) => ({
      id: spot.id,
      room_id: roomOf.get(spot.id) ?? 0,
      x_m: axis === "x_m" ? first.x_m : spot.x_m,
      y_m: axis === "y_m" ? first.y_m : spot.y_m,
    }));
    edit({ type: "place_drops", places });
  };
  const own = ownKinds.find((one) => ownKey(one.id) === putting);
  const kind = own?.base ?? kinds.find((line) => line.key === putting)?.key;
  return (
    <DrawingSurface>
      <div className="drawing">
        <div className="tools">
          <FloorTabs
            floors={used}
            now={floor.id}
            choose={(number) => {
              setPicked(number);
              choose({ roomId: null, kind: null, drops: new Set() });
            }}
          />
          <Chooser
            label={w.put}
            value={putting}
            options={[
              ["", w.put],
              ...ownKinds.map((one): Option<string> => [ownKey(one.id), one.name]),
              ...kinds.map((line): Option<string> => [line.key, line.name]),
            ]}
            set={(next) => {
              setPutting(next);
              setDrawing(false);
            }}
          />
          <Word
            aria-pressed={drawing}
            className={drawing ? "on" : ""}
            onPress={() => {
              setDrawing(!drawing);
              setPutting("");
            }}
          >
            {drawing ? w.drawn : w.draw}
          </Word>
          {chosenHere.length > 1 && (
            <>
              <Word onPress={() => align("y_m")}>{w.alignRow}</Word>
              <Word onPress={() => align("x_m")}>{w.alignColumn}</Word>
            </>
          )}
          <PlanPicture floor={floor} spots={spots} measure={setSpots} />
          <span>{putting ? w.putting : drawing ? w.drawing : spots ? w.measuring : w.hint}</span>
        </div>
        <FloorPlan
          key={floor.id}
          floor={floor}
          layout={layout.layout}
          ways={layout.ways}
          drawing={drawing}
          putting={kind ? { kind, ownKind: own?.id ?? null } : null}
          measuring={spots}
          onMeasured={(spot) => setSpots((now) => (now && now.length < 2 ? [...now, spot] : now))}
        />
      </div>
      <Beside>
        <FloorSheet floor={floor} />
      </Beside>
    </DrawingSurface>
  );
}
