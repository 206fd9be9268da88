import { useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Band, SignalFor } from "../../api/client";
import { addTo } from "../../api/edits";
import { useChosen, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { DrawingSurface } from "../../instruments/plan/DrawingSurface";
import { FloorPlan } from "../../instruments/plan/FloorPlan";
import { FloorTabs, useFloors } from "../../instruments/plan/FloorTabs";
import { corners, onGrid, type Spot } from "../../instruments/plan/geometry";
import { TakeAlong } from "../../instruments/plan/TakeAlong";
import { useLayout } from "../../instruments/plan/useLayout";
import { SheetWord } from "../../instruments/SheetWord";
import { Chooser, optionsOf } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { exact, figure, length, lengthUnit } from "../../kit/figures";
import { Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { HeardSheet } from "./HeardSheet";
import { ObstacleSheet } from "./ObstacleSheet";
import { SignalContours, Summits } from "./SignalContours";
import { SignalCutView } from "./SignalCutView";
import { SignalTables } from "./SignalTables";
import { StationList, StationSheet } from "./StationSheet";
import { useDrawingKeys } from "./useDrawingKeys";
import { type Shown, useCut, useGoalName, useHeard, usePicture, useRoamed, useSignal } from "./useSignal";
import { Carried, WalkSheet } from "./WalkSheet";

const w = words.signal;
const STEP_M = 0.1;
type Act = keyof typeof w.draw;

/** Where Wi-Fi is heard, drawn as heights are on a map; access points are moved, set, and asked what is heard. */
export function SignalView() {
  const { id, outcome, edit, choose } = useWork();
  const chosen = useChosen();
  const layout = useLayout();
  const floors = useFloors();
  const signal = useSignal();
  const [picked, setPicked] = useState<number | null>(null);
  const [band, setBand] = useState<Band | null>(null);
  const [shown, setShown] = useState<Shown>("strongest");
  const [axis, setAxis] = useState<keyof typeof w.cuts>("");
  const [typedAt, setTypedAt] = useState<number | null>(null);
  const [act, setAct] = useState<Act>("");
  const [growing, setGrowing] = useState<readonly Spot[]>([]);
  const [asked, setAsked] = useState<Spot | null>(null);
  const [walk, setWalk] = useState<readonly Spot[] | null>(null);
  const [obstacle, setObstacle] = useState<number | null>(null);
  const { rooms, drops, goals, obstacles, next_id: nextId } = outcome.project;
  const station = signal?.stations.find((one) => chosen.drops.has(one.drop_id));
  useEffect(() => {
    if (station) setPicked(station.floor_id);
  }, [station]);
  const floor = floors.find((one) => one.id === (picked ?? signal?.stations[0]?.floor_id)) ?? floors[0];
  const bandNow = band ?? (signal?.bands.includes("5") ? "5" : (signal?.bands[0] ?? "5"));
  const picture = usePicture(floor?.id ?? 0, bandNow, shown);
  const through = station ?? signal?.stations.find((one) => one.floor_id === floor?.id) ?? signal?.stations[0];
  const at = typedAt ?? (through ? (axis === "y" ? through.x_m : through.y_m) : 0);
  const cut = useCut(bandNow, axis, at, shown);
  const shifted = useShifted(signal);
  const heard = useHeard(floor?.id ?? 0, asked);
  const carried = useRoamed(floor?.id ?? 0, bandNow, walk);
  const names = useMemo(() => new Map(signal?.stations.map((one) => [one.drop_id, one.name])), [signal]);
  const told = useMemo(() => new Map(signal ? summits(signal, bandNow) : []), [signal, bandNow]);

  const stop = () => {
    setAct("");
    setGrowing([]);
    setAsked(null);
    setWalk(null);
  };
  useDrawingKeys(act !== "", growing.length > 0, stop, () => setGrowing((now) => now.slice(0, -1)));

  if (!layout || !signal || !floor) return null;

  const press = ([x, y]: Spot) => {
    const spot: Spot = [onGrid(x, STEP_M), onGrid(y, STEP_M)];
    if (act === "ask") setAsked(spot);
    else setGrowing([...growing, spot]);
  };
  const finish = async () => {
    if (act === "walk") {
      setWalk(growing);
      setGrowing([]);
      return;
    }
    if (act === "goal") {
      const made = addTo("goals", { kind: "calls", floor_id: floor.id, area: corners(growing) });
      stop();
      await edit(made);
      return;
    }
    const name = `${w.newObstacle} ${(obstacles?.length ?? 0) + 1}`;
    const made = addTo("obstacles", { name, floor_id: floor.id, outline: corners(growing) });
    stop();
    if (await edit(made)) setObstacle(nextId);
  };
  const notDrawn = rooms.filter((room) => signal.not_drawn.includes(room.id)).map((room) => room.name);
  const drawn = layout.layout.rooms
    .filter((room) => room.floor_id === floor.id && room.drawn)
    .map((room) => room.outline);
  const current = picture?.floor_id === floor.id && picture.band === bandNow ? picture : undefined;
  return (
    <SignalSurface>
      <div className="drawing">
        <div className="tools">
          <FloorTabs
            floors={floors}
            now={floor.id}
            choose={(number) => {
              setPicked(number);
              stop();
              choose({ roomId: null, drops: new Set(), path: null });
            }}
          />
          <Chooser
            label={w.band}
            value={bandNow}
            options={optionsOf(w.bands).filter(([key]) => signal.bands.includes(key) || key === bandNow)}
            set={setBand}
          />
          <Chooser label={w.show} value={shown} options={optionsOf(w.shown)} set={setShown} />
          <Chooser
            label={w.cut}
            value={axis}
            options={optionsOf(w.cuts)}
            set={(next) => {
              stop();
              setTypedAt(null);
              setAxis(next);
            }}
          />
          {axis && (
            <CutAt>
              {w.cutAt}
              <Amount
                label={w.cutAt}
                value={typedAt}
                usual={at}
                metres
                least={-5000}
                most={5000}
                set={async (value) => {
                  setTypedAt(value);
                  return true;
                }}
              />
              {lengthUnit()}
            </CutAt>
          )}
          {!axis && (
            <Chooser
              label={w.what}
              value={act}
              options={optionsOf(w.draw)}
              set={(next) => {
                stop();
                setAct(next);
              }}
            />
          )}
          {(act === "obstacle" || act === "goal" || act === "walk") && (
            <Word isDisabled={growing.length < (act === "walk" ? 2 : 3)} onPress={finish}>
              {w.finish}
            </Word>
          )}
          {act && <Word onPress={stop}>{w.cancel}</Word>}
          <a href={`/api/projects/${id}/signal/grid.csv?floor_id=${floor.id}&band=${bandNow}`}>{w.file}</a>
          <SheetWord sheet="signal" />
          <TakeAlong of="signal" floor={floor.id} band={bandNow} />
          <span role="status">
            {!drops.some((drop) => drop.kind === "access_point") ? (
              <Link to={`/projects/${id}/walk`}>{w.none}</Link>
            ) : axis ? (
              w.cutHint
            ) : act ? (
              w.hints[act]
            ) : (
              [
                shifted,
                notDrawn.length ? w.notDrawn(notDrawn.join(", ")) : w.hint,
                w.cells(`${length(signal.step_m, 1)} ${lengthUnit()}`),
                signal.stations.some((one) => !one.placed) ? w.guessed : "",
              ].join(" ")
            )}
          </span>
        </div>
        {axis && cut ? (
          <SignalCutView cut={cut} names={names} />
        ) : (
          <FloorPlan
            key={floor.id}
            floor={floor}
            layout={layout.layout}
            ways={[]}
            measuring={act ? [] : null}
            onMeasured={press}
            over={(px) => (
              <>
                {current && <SignalContours picture={current} within={drawn} px={px} />}
                {(goals ?? [])
                  .filter((one) => one.area && one.floor_id === floor.id)
                  .map((one) => (
                    <AreaOfGoal key={one.id} points={one.area?.map((spot) => spot.join(",")).join(" ")}>
                      <title>{w.areaGoal}</title>
                    </AreaOfGoal>
                  ))}
                {(obstacles ?? [])
                  .filter((one) => one.floor_id === floor.id)
                  .map((one) => (
                    <Standing
                      key={one.id}
                      points={one.outline.map((spot) => spot.join(",")).join(" ")}
                      data-chosen={one.id === obstacle || undefined}
                      data-drawing={act !== "" || undefined}
                      onClick={() => {
                        setObstacle(one.id);
                        choose({ drops: new Set() });
                      }}
                    />
                  ))}
                <Summits layout={layout.layout} floor={floor.id} told={told} chosen={chosen.drops} px={px} />
                {walk && carried && <Carried walk={carried} px={px} />}
                {growing.length > 0 && <Growing points={growing.map((spot) => spot.join(",")).join(" ")} />}
                {(asked ? [asked] : growing).map((spot) => (
                  <Pressed key={spot.join()} cx={spot[0]} cy={spot[1]} r={4 * px} />
                ))}
              </>
            )}
          />
        )}
        {asked && heard ? (
          <HeardSheet heard={heard} names={names} />
        ) : walk && carried ? (
          <WalkSheet walk={carried} names={names} />
        ) : (
          <SignalTables signal={signal} names={names} />
        )}
      </div>
      <div className="beside">
        {station ? (
          <StationSheet station={station} signal={signal} />
        ) : obstacle !== null && obstacles?.some((one) => one.id === obstacle) ? (
          <ObstacleSheet id={obstacle} signal={signal} done={() => setObstacle(null)} />
        ) : (
          <StationList signal={signal} />
        )}
        <Findings verb="cover" />
      </div>
    </SignalSurface>
  );
}

/** Of which goals the last change moved the share; it stays until another change does so. */
function useShifted(signal: SignalFor | undefined): string {
  const nameOf = useGoalName();
  const before = useRef<SignalFor>(undefined);
  const [told, setTold] = useState("");
  useEffect(() => {
    const last = before.current;
    before.current = signal;
    if (!signal || !last || signal.revision === last.revision) return;
    const was = new Map(last.goals.map((line) => [line.goal_id, line.share]));
    const changed = signal.goals.flatMap((line) => {
      const old = was.get(line.goal_id);
      if (old == null || line.share == null || Math.abs(old - line.share) < 0.0005) return [];
      return w.shifted(nameOf(line.goal_id), figure(old * 100), figure(line.share * 100));
    });
    if (changed.length) setTold(changed.join(" "));
  });
  return told;
}

/** What stands beside each access point that sends in a band. */
function summits(signal: SignalFor, band: Band): (readonly [number, string])[] {
  return signal.stations.map((station) => {
    const radio = station.radios.find((one) => one.band === band);
    const text = !radio
      ? w.off
      : radio.channel == null
        ? w.notSet(radio.width_mhz)
        : w.channelOf(radio.channel, radio.width_mhz);
    return [station.drop_id, `${text}${radio ? `, ${exact(radio.eirp_dbm)} dBm` : ""}`] as const;
  });
}

const SignalSurface = styled(DrawingSurface)`
  > :first-child { grid-template-rows: auto minmax(0, 1fr) fit-content(34%); }
  ${NARROW} { > :first-child { grid-template-rows: auto 58vh auto; } }
`;
const Standing = styled.polygon`
  fill: var(--earth); fill-opacity: 0.7; stroke: var(--ink); stroke-width: 1; vector-effect: non-scaling-stroke; cursor: pointer;
  &[data-chosen] { stroke: var(--clay); stroke-width: 2; }
  &[data-drawing] { pointer-events: none; }
`;
const Growing = styled.polyline`
  fill: none; stroke: var(--clay); stroke-width: 1.6; vector-effect: non-scaling-stroke; pointer-events: none;
`;
const Pressed = styled.circle`fill: var(--clay); stroke: var(--sheet); stroke-width: 1; vector-effect: non-scaling-stroke; pointer-events: none;`;
const AreaOfGoal = styled.polygon`
  fill: none; stroke: var(--moss); stroke-width: 1.6; stroke-dasharray: 6 4; vector-effect: non-scaling-stroke;
`;
const CutAt = styled.label`
  display: inline-flex; gap: 4px; align-items: baseline; color: var(--faint);
  input { width: 6ch; background: none; border: 0; border-bottom: 1px dotted var(--faint); padding: 0 1px; }
`;
