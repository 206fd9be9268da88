import type { ReactNode } from "react";
import styled from "styled-components";
import type { CoverFor, Opening, Target } from "../../api/client";
import { changeIn } from "../../api/edits";
import { useWork } from "../../api/work";
import { useLayout } from "../../instruments/plan/useLayout";
import { Choice, optionsOf } from "../../kit/Choice";
import { cornersOf, cornersText } from "../../kit/corners";
import { Amount, Text } from "../../kit/fields";
import { figure, lengthUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import type { Marked } from "./SightMarks";
import { keyOf } from "./useCover";

const w = words.targets;
const o = words.openings;

/** What is chosen on the plan of Sight: a target, an opening, or the boundary. */
export function TargetSheet({ mark, cover, done }: { mark: Marked; cover: CoverFor; done: () => void }) {
  const { outcome, edit } = useWork();
  const remove = () => {
    edit({ type: "remove_entry", list: mark.list, id: mark.id });
    done();
  };
  const target = mark.list === "targets" && outcome.project.targets?.find((one) => one.id === mark.id);
  const opening = mark.list === "openings" && outcome.project.openings?.find((one) => one.id === mark.id);
  const acts = (
    <Acts>
      <Word onPress={remove}>{w.remove}</Word>
      <Word onPress={done}>{w.done}</Word>
    </Acts>
  );
  if (target) return <OneTarget target={target} cover={cover} acts={acts} />;
  if (opening) return <OneOpening opening={opening} acts={acts} />;
  return (
    <Sheet aria-label={o.plots}>
      <Heading>
        <h2>{o.plots}</h2>
      </Heading>
      {acts}
    </Sheet>
  );
}

function OneTarget({ target, cover, acts }: { target: Target; cover: CoverFor; acts: ReactNode }) {
  const { edit, say } = useWork();
  const set = (changes: Partial<Target>) => edit(changeIn("targets", target.id, changes));
  const line = cover.targets.find((one) => one.id === target.id);
  const names = new Map(cover.views.map((view) => [keyOf(view), view.name]));
  const setCorners = async (text: string) => {
    const points = cornersOf(text);
    if (!points) {
      say(words.pathSheet.cornersOdd);
      return false;
    }
    return set({ points });
  };
  return (
    <Sheet aria-label={target.name}>
      <Heading>
        <h2>{target.name}</h2>
        <span>{w.shape[target.shape ?? "spot"]}</span>
      </Heading>
      <Line label={w.name}>
        <Text label={w.name} value={target.name} set={(name) => set({ name })} />
      </Line>
      <Line label={w.detail}>
        <Choice
          label={w.detail}
          value={target.detail ?? "recognise"}
          options={optionsOf(words.cover.details)}
          set={(detail) => set({ detail })}
        />
      </Line>
      <Line label={w.lookedAt}>
        <Choice
          label={w.lookedAt}
          value={target.looked_at ?? "face"}
          options={optionsOf(w.looked)}
          set={(looked_at) => set({ looked_at })}
        />
      </Line>
      <Line label={w.height}>
        <Amount
          label={`${w.height}, ${target.name}`}
          value={target.height_m ?? null}
          usual={line?.height_m}
          metres
          least={-10}
          most={100}
          set={(height_m) => set({ height_m })}
        />
        <i>
          {lengthUnit()} {words.viewSheet.heightWhy}
        </i>
      </Line>
      <Line label={w.corners}>
        <Text label={w.corners} value={cornersText(target.points)} most={2000} set={setCorners} />
      </Line>
      {line && line.sightings.length > 0 && (
        <Seen aria-label={w.sightings}>
          {line.sightings.map((one) => (
            <li key={keyOf(one)}>
              <b>{names.get(keyOf(one))}</b>
              <span>{`${figure(one.px_m)} ${w.pxm}, ${w.share(figure(one.seen * 100))}`}</span>
              <small>
                {[
                  one.blocked_by && words.cover.hidden(one.blocked_by),
                  one.against_window && w.light,
                  !one.lit && w.dark,
                ]
                  .filter(Boolean)
                  .join(", ")}
              </small>
            </li>
          ))}
        </Seen>
      )}
      {acts}
    </Sheet>
  );
}

function OneOpening({ opening, acts }: { opening: Opening; acts: ReactNode }) {
  const { edit } = useWork();
  const set = (changes: Partial<Opening>) => edit(changeIn("openings", opening.id, changes));
  const counted = useLayout()?.layout.openings.find((one) => one.id === opening.id);
  const metres = (
    label: string,
    value: number | null,
    sized: number | undefined,
    keep: (value: number | null) => Promise<boolean>,
  ) => (
    <Line label={label}>
      <Amount label={label} value={value} usual={sized} metres most={50} set={keep} />
      <i>{lengthUnit()}</i>
    </Line>
  );
  return (
    <Sheet aria-label={opening.name || o.kinds[opening.kind ?? "door"]}>
      <Heading>
        <h2>{opening.name || o.kinds[opening.kind ?? "door"]}</h2>
      </Heading>
      <Line label={o.name}>
        <Text label={o.name} value={opening.name ?? ""} set={(name) => set({ name })} />
      </Line>
      <Line label={o.kind}>
        <Choice
          label={o.kind}
          value={opening.kind ?? "door"}
          options={optionsOf(o.kinds)}
          set={(kind) => set({ kind })}
        />
      </Line>
      {metres(o.width, opening.width_m ?? 0.9, undefined, (width_m) => set({ width_m: width_m ?? 0.9 }))}
      {metres(o.sill, opening.sill_m ?? null, counted?.sill_m, (sill_m) => set({ sill_m }))}
      {metres(o.head, opening.head_m ?? null, counted?.head_m, (head_m) => set({ head_m }))}
      <Line label={o.through}>
        <Tick
          label={o.through}
          value={opening.see_through ?? counted?.see_through ?? true}
          set={(see_through) => set({ see_through })}
        />
      </Line>
      <Line label={o.material}>
        <Choice
          label={o.material}
          value={opening.material ?? counted?.material ?? "timber"}
          options={optionsOf(words.roomSheet.walls)}
          set={(material) => set({ material })}
        />
      </Line>
      {acts}
    </Sheet>
  );
}

const Acts = styled.div`display: flex; gap: 14px; padding-top: 6px;`;
const Seen = styled.ul`
  padding-top: 6px;
  li { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0 10px; padding: 3px 0; border-bottom: 1px solid var(--rule); }
  b { font-weight: 550; }
  small { grid-column: 1 / -1; color: var(--ochre); font-size: 12.5px; }
`;
