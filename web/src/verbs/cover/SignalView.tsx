import { useEffect, useMemo, useState } from "react";
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
import { exact, length, lengthUnit } from "../../kit/figures";
import { Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { HeardSheet } from "./HeardSheet";
import { ObstacleSheet } from "./ObstacleSheet";
import { SignalContours, Summits } from "./SignalContours";
import { SignalTables } from "./SignalTables";
import { StationList, StationSheet } from "./StationSheet";
import { useDrawingKeys } from "./useDrawingKeys";
import { type Shown, useHeard, usePicture, useRoamed, useSignal } from "./useSignal";
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
  const [act, setAct] = useState<Act>("");
  const [growing, setGrowing] = useState<readonly Spot[]>([]);
  const [asked, setAsked] = useState<Spot | null>(null);
  const [walk, setWalk] = useState<readonly Spot[] | null>(null);
  const [obstacle, setObstacle] = useState<number | null>(null);
  const { rooms, drops, obstacles, next_id: nextId } = outcome.project;
  const station = signal?.stations.find((one) => chosen.drops.has(one.drop_id));
  useEffect(() => {
    if (station) setPicked(station.floor_id);
  }, [station]);
  const floor = floors.find((one) => one.id === (picked ?? signal?.stations[0]?.floor_id)) ?? floors[0];
  const bandNow = band ?? (signal?.bands.includes("5") ? "5" : (signal?.bands[0] ?? "5"));
  const picture = usePicture(floor?.id ?? 0, bandNow, shown);
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
    const name = `${w.newObstacle} ${(obstacles?.length ?? 0) + 1}`;
    const made = addTo("obstacles", { name, floor_id: floor.id, outline: corners(growing) });
    stop();
    if (await edit(made)) setObstacle(nextId);
  };
  const notDrawn = rooms.filter((room) => signal.not_drawn.includes(room.id)).map((room) => room.name);
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
            label={w.what}
            value={act}
            options={optionsOf(w.draw)}
            set={(next) => {
              stop();
              setAct(next);
            }}
          />
          {(act === "obstacle" || act === "walk") && (
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
            ) : act ? (
              w.hints[act]
            ) : (
              [
                notDrawn.length ? w.notDrawn(notDrawn.join(", ")) : w.hint,
                w.cells(`${length(signal.step_m, 1)} ${lengthUnit()}`),
                signal.stations.some((one) => !one.placed) ? w.guessed : "",
              ].join(" ")
            )}
          </span>
        </div>
        <FloorPlan
          key={floor.id}
          floor={floor}
          layout={layout.layout}
          ways={[]}
          measuring={act ? [] : null}
          onMeasured={press}
          over={(px) => (
            <>
              {current && <SignalContours picture={current} layout={layout.layout} px={px} />}
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
