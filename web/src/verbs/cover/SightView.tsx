import { useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { CoverFor } from "../../api/client";
import { addTo, changeIn, type Edit } from "../../api/edits";
import { useChosen, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { DrawingSurface } from "../../instruments/plan/DrawingSurface";
import { FloorPlan } from "../../instruments/plan/FloorPlan";
import { FloorTabs, useFloors } from "../../instruments/plan/FloorTabs";
import { corners, onGrid, type Spot, spots } from "../../instruments/plan/geometry";
import { TakeAlong } from "../../instruments/plan/TakeAlong";
import { useLayout } from "../../instruments/plan/useLayout";
import { SheetWord } from "../../instruments/SheetWord";
import { Chooser, optionsOf } from "../../kit/Choice";
import { Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { SightFans } from "./SightFans";
import { type Marked, SightMarks } from "./SightMarks";
import { SpotSheet } from "./SpotSheet";
import { TargetSheet } from "./TargetSheet";
import { TargetTable } from "./TargetTable";
import { type LookedAt, useCover, useSpot } from "./useCover";
import { useDrawingKeys } from "./useDrawingKeys";
import { ViewList } from "./ViewList";
import { ViewSheet } from "./ViewSheet";

const w = words.cover;
const STEP_M = 0.05;
type Drawing = keyof typeof w.draw;
/** What is drawn by one press, by two, and by as many as there are corners. */
const OPENINGS: readonly Drawing[] = ["door", "window", "gate", "hatch"];
const BY_TWO: readonly Drawing[] = ["wall", "line"];
const BY_CORNERS: readonly Drawing[] = ["area", "plot", "mask"];

/** The plan with every view as a fan of hachures, what must be seen, and how well it is. */
export function SightView() {
  const { id, outcome, edit, say, choose } = useWork();
  const chosen = useChosen();
  const layout = useLayout();
  const floors = useFloors();
  const [lookedAt, setLookedAt] = useState<LookedAt>("face");
  const cover = useCover(lookedAt);
  const changed = useGainAndLoss(cover);
  const [picked, setPicked] = useState<number | null>(null);
  const [only, setOnly] = useState(false);
  const [mark, setMark] = useState<Marked | null>(null);
  const [drawing, setDrawing] = useState<Drawing>("");
  const [growing, setGrowing] = useState<readonly Spot[]>([]);
  const [asked, setAsked] = useState<Spot | null>(null);
  const { rooms, drops, targets, next_id: nextId } = outcome.project;
  const drop = drops.find((one) => chosen.drops.has(one.id));
  const wanted = rooms.find((room) => room.id === drop?.room_id)?.floor_id;
  useEffect(() => {
    if (wanted !== undefined) setPicked(wanted);
  }, [wanted]);
  const firstFloor = cover?.views.find((view) => view.placed)?.floor_id;
  const floor = floors.find((one) => one.id === (picked ?? wanted ?? firstFloor)) ?? floors[0];
  const seen = useSpot(floor?.id ?? 0, asked, lookedAt);
  const view = cover?.views.find((one) => chosen.drops.has(one.drop_id));

  const abandon = () => {
    setDrawing("");
    setGrowing([]);
    setAsked(null);
  };
  useDrawingKeys(drawing !== "", growing.length > 0, abandon, () => setGrowing((now) => now.slice(0, -1)));

  const onFloor = useMemo(() => (targets ?? []).filter((one) => one.floor_id === floor?.id), [targets, floor?.id]);
  const beyond = useMemo(() => onFloor.flatMap((one) => spots(one.points)), [onFloor]);
  const named = useMemo(
    () => onFloor.map((one) => ({ key: `target-${one.id}`, spot: spots(one.points)[0] as Spot, text: one.name })),
    [onFloor],
  );
  if (!layout || !cover || !floor) return null;

  const stop = () => {
    setDrawing("");
    setGrowing([]);
  };
  const keep = async (made: Edit, kept: Marked | null) => {
    stop();
    if ((await edit(made)) && kept) setMark(kept);
  };
  const target = (shape: "spot" | "line" | "area", points: readonly Spot[]) =>
    keep(
      addTo("targets", {
        name: w.newTarget((targets?.length ?? 0) + 1),
        floor_id: floor.id,
        shape,
        points: corners(points),
      }),
      { list: "targets", id: nextId },
    );
  const finish = (points: readonly Spot[]) => {
    const [[x_m, y_m] = [0, 0], [to_x_m, to_y_m] = [0, 0]] = points;
    if (drawing === "wall") keep(addTo("walls", { floor_id: floor.id, x_m, y_m, to_x_m, to_y_m }), null);
    else if (drawing === "line" || drawing === "area") target(drawing, points);
    else if (drawing === "plot") keep(addTo("plots", { outline: corners(points) }), { list: "plots", id: nextId });
    else if (drawing === "mask" && view) {
      const row = outcome.project.views?.find((one) => one.id === view.view_id);
      const masks = [...(row?.masks ?? []), corners(points)];
      keep(row ? changeIn("views", row.id, { masks }) : addTo("views", { drop_id: view.drop_id, masks }), null);
    }
  };
  const press = ([x, y]: Spot) => {
    const spot: Spot = [onGrid(x, STEP_M), onGrid(y, STEP_M)];
    if (drawing === "ask") setAsked(spot);
    else if (drawing === "spot") target("spot", [spot]);
    else if (drawing === "door" || drawing === "window" || drawing === "gate" || drawing === "hatch") {
      const values = { kind: drawing, floor_id: floor.id, x_m: spot[0], y_m: spot[1] };
      keep(addTo("openings", values), { list: "openings", id: nextId });
    } else {
      const points = [...growing, spot];
      if (BY_TWO.includes(drawing) && points.length === 2) finish(points);
      else setGrowing(points);
    }
  };
  const hint = OPENINGS.includes(drawing)
    ? w.hints.opening
    : BY_TWO.includes(drawing)
      ? w.hints.line
      : BY_CORNERS.includes(drawing)
        ? w.hints.area
        : drawing === "ask" || drawing === "spot"
          ? w.hints[drawing]
          : w.hint;
  return (
    <SightSurface>
      <div className="drawing">
        <div className="tools">
          <FloorTabs
            floors={floors}
            now={floor.id}
            choose={(number) => {
              setPicked(number);
              stop();
              setAsked(null);
              choose({ roomId: null, drops: new Set(), path: null });
            }}
          />
          <Chooser label={w.at} value={lookedAt} options={optionsOf(w.lookedAt)} set={setLookedAt} />
          <Chooser
            label={w.what}
            value={drawing}
            options={optionsOf(w.draw)}
            set={(next) => {
              stop();
              setAsked(null);
              if (next === "mask" && !view) say(w.noCamera);
              else setDrawing(next);
            }}
          />
          {BY_CORNERS.includes(drawing) && (
            <Word isDisabled={growing.length < 3} onPress={() => finish(growing)}>
              {w.finish}
            </Word>
          )}
          {drawing && (
            <Word
              onPress={() => {
                stop();
                setAsked(null);
              }}
            >
              {w.cancel}
            </Word>
          )}
          <Word onPress={() => setOnly(!only)}>{only ? w.all : w.only}</Word>
          <SheetWord sheet="views" />
          <TakeAlong of="sight" floor={floor.id} />
          <span role="status">
            {!cover.views.length && !drawing ? (
              <Link to={`/projects/${id}/walk`}>{w.noViews}</Link>
            ) : drawing ? (
              hint
            ) : (
              changed || hint
            )}
          </span>
        </div>
        <FloorPlan
          key={floor.id}
          floor={floor}
          layout={layout.layout}
          ways={[]}
          measuring={drawing ? [] : null}
          onMeasured={press}
          beyond={beyond}
          called={named}
          over={(px) => (
            <>
              <SightFans
                views={cover.views.filter((one) => one.floor_id === floor.id && one.placed)}
                chosen={chosen.drops}
                only={only}
                px={px}
              />
              <SightMarks
                cover={cover}
                layout={layout.layout}
                floor={floor.id}
                px={px}
                chosen={mark}
                growing={growing}
                asked={asked}
                choose={(next) => {
                  setMark(next);
                  choose({ drops: new Set() });
                }}
              />
            </>
          )}
        />
        {asked && seen ? (
          <SpotSheet seen={seen} />
        ) : (
          <TargetTable
            targets={cover.targets}
            views={cover.views}
            chosen={mark?.list === "targets" ? mark.id : null}
            choose={(number) => {
              setMark({ list: "targets", id: number });
              choose({ drops: new Set() });
            }}
          />
        )}
      </div>
      <div className="beside">
        {view ? (
          <ViewSheet drop={view.drop_id} views={cover.views.filter((one) => one.drop_id === view.drop_id)} />
        ) : mark ? (
          <TargetSheet mark={mark} cover={cover} done={() => setMark(null)} />
        ) : (
          <ViewList views={cover.views} />
        )}
        <Findings verb="cover" />
      </div>
    </SightSurface>
  );
}

/** Which targets the last change gained and lost; it stays until another change does so. */
function useGainAndLoss(cover: CoverFor | undefined): string {
  const before = useRef<CoverFor>(undefined);
  const [told, setTold] = useState("");
  useEffect(() => {
    const last = before.current;
    before.current = cover;
    if (!cover || !last || cover.revision === last.revision) return;
    const was = new Map(last.targets.map((target) => [target.id, target.met]));
    const changed = cover.targets.filter((target) => was.has(target.id) && was.get(target.id) !== target.met);
    const named = (met: boolean) =>
      changed
        .filter((target) => target.met === met)
        .map((target) => target.name)
        .join(", ");
    if (changed.length)
      setTold([named(true) && w.gained(named(true)), named(false) && w.lost(named(false))].filter(Boolean).join(" "));
  }, [cover]);
  return told;
}

const SightSurface = styled(DrawingSurface)`
  > :first-child { grid-template-rows: auto minmax(0, 1fr) fit-content(34%); }
  ${NARROW} { > :first-child { grid-template-rows: auto 58vh auto; } }
`;
