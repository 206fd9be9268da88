import { useEffect, useMemo, useState } from "react";
import type { Path } from "../../api/client";
import { addTo } from "../../api/edits";
import { useChosen, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { DrawingSurface } from "../../instruments/plan/DrawingSurface";
import { FloorPlan } from "../../instruments/plan/FloorPlan";
import { FloorTabs, useFloors } from "../../instruments/plan/FloorTabs";
import { corners, onGrid, type Spot, spots } from "../../instruments/plan/geometry";
import { LandmarkMarks } from "../../instruments/plan/LandmarkMarks";
import { PathLines } from "../../instruments/plan/PathLines";
import { TakeAlong } from "../../instruments/plan/TakeAlong";
import { useLayout } from "../../instruments/plan/useLayout";
import { Chooser, type Option } from "../../kit/Choice";
import { Word } from "../../kit/parts";
import { words } from "../../words";
import { ClosetMoved } from "./ClosetMoved";
import { PathList } from "./PathList";
import { PathSheet } from "./PathSheet";
import { RunSheet } from "./RunSheet";
import { RunTable } from "./RunTable";
import { usePathKinds, useReach } from "./useReach";

const w = words.reach;
const STEP_M = 0.1;

/** The plan with its paths: drawn, bent and chosen; the run of the chosen drop; every run in a table. */
export function RunsView() {
  const { outcome, edit, choose } = useWork();
  const chosen = useChosen();
  const layout = useLayout();
  const reach = useReach();
  const kinds = usePathKinds();
  const floors = useFloors();
  const [picked, setPicked] = useState<number | null>(null);
  const [growing, setGrowing] = useState<Spot[] | null>(null);
  const [kind, setKind] = useState<Path["kind"]>("tray");
  const [onTo, setOnTo] = useState("");
  const { rooms, drops, paths } = outcome.project;
  const drop = drops.find((one) => chosen.drops.has(one.id));
  const path = paths.find((one) => one.id === chosen.path);
  const roomFloor = rooms.find((room) => room.id === drop?.room_id)?.floor_id;
  const floor = floors.find((one) => one.id === (picked ?? path?.floor_id ?? roomFloor)) ?? floors[0];

  // what is chosen elsewhere is looked at where it is
  const wanted = path?.floor_id ?? roomFloor;
  useEffect(() => {
    if (wanted !== undefined) setPicked(wanted);
  }, [wanted]);

  useEffect(() => {
    if (!growing) return;
    const press = (event: KeyboardEvent) => {
      if (event.key === "Escape") setGrowing(null);
      else if (event.key === "Backspace") setGrowing((now) => now?.slice(0, -1) ?? null);
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, [growing]);

  const floorId = floor?.id;
  const beyond = useMemo(
    () => paths.filter((one) => one.floor_id === floorId).flatMap((one) => spots(one.points)),
    [paths, floorId],
  );

  if (!layout || !reach || !floor) return null;
  const name = kinds.find((one) => one.key === kind)?.name ?? kind;
  const ready = growing !== null && (growing.length > 1 || (growing.length === 1 && onTo !== ""));
  const keep = async () => {
    const values = {
      name: w.newPath(name, paths.filter((one) => one.kind === kind).length + 1),
      kind,
      floor_id: floor.id,
      to_floor_id: onTo ? Number(onTo) : null,
      points: corners(growing ?? []),
    };
    if (!(await edit(addTo("paths", values)))) return;
    choose({ path: outcome.project.next_id, drops: new Set() });
    setGrowing(null);
    setOnTo("");
  };
  return (
    <DrawingSurface className="with-table">
      <div className="drawing">
        <div className="tools">
          <FloorTabs
            floors={floors}
            now={floor.id}
            choose={(number) => {
              setPicked(number);
              setGrowing(growing && []);
              choose({ roomId: null, drops: new Set(), path: null });
            }}
          />
          {growing === null ? (
            <Word
              onPress={() => {
                setGrowing([]);
                choose({ drops: new Set(), path: null });
              }}
            >
              {w.draw}
            </Word>
          ) : (
            <>
              <Chooser label={w.kind} value={kind} options={kinds.map((one) => [one.key, one.name])} set={setKind} />
              <Chooser
                label={w.upTo}
                value={onTo}
                options={[
                  ["", w.noFloor],
                  ...floors
                    .filter((one) => one.id !== floor.id)
                    .map((one): Option<string> => [String(one.id), `${w.upTo} ${one.name}`]),
                ]}
                set={setOnTo}
              />
              <Word isDisabled={!ready} className={ready ? "on" : ""} onPress={keep}>
                {w.keep}
              </Word>
              <Word onPress={() => setGrowing(null)}>{w.giveUp}</Word>
            </>
          )}
          <TakeAlong of="plan" floor={floor.id} />
          <span>{growing ? w.drawing(growing.length) : paths.length ? w.hint : w.noPaths}</span>
        </div>
        <FloorPlan
          key={floor.id}
          floor={floor}
          layout={layout.layout}
          ways={layout.ways}
          measuring={growing}
          onMeasured={(spot) => {
            const here: Spot = [onGrid(spot[0], STEP_M), onGrid(spot[1], STEP_M)];
            setGrowing((now) => [...(now ?? []), squared(now?.at(-1), here)]);
          }}
          beyond={beyond}
          over={(px) => (
            <>
              <PathLines floor={floor.id} px={px} growing={growing} />
              <LandmarkMarks floor={floor.id} px={px} />
            </>
          )}
        />
        <RunTable reach={reach} />
      </div>
      <div className="beside">
        <ClosetMoved reach={reach} />
        {path ? <PathSheet path={path} fill={reach.paths.find((one) => one.path_id === path.id)} /> : null}
        {!path && (chosen.drops.size > 0 ? <RunSheet reach={reach} /> : <PathList fills={reach.paths} />)}
        <Findings verb="reach" />
      </div>
    </DrawingSurface>
  );
}

/** A corner nearly in line with the one before is taken in line: paths mostly follow walls. */
function squared(before: Spot | undefined, [x, y]: Spot): Spot {
  if (!before) return [x, y];
  if (Math.abs(x - before[0]) < 0.4) return [before[0], y];
  if (Math.abs(y - before[1]) < 0.4) return [x, before[1]];
  return [x, y];
}
