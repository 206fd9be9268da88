import type { ReachFor } from "../../api/client";
import { useChosen, useWork } from "../../api/work";
import { Choice } from "../../kit/Choice";
import { Amount, Some, Text } from "../../kit/fields";
import { exact, figure, length, lengthUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { words } from "../../words";

const w = words.runSheet;

/** The run of the chosen drop, piece by piece, and what it is told by hand. */
export function RunSheet({ reach }: { reach: ReachFor }) {
  const { outcome, edit, kinds, say, choose } = useWork();
  const chosen = useChosen();
  const { drops, paths, rooms } = outcome.project;
  const mine = drops.filter((drop) => chosen.drops.has(drop.id));
  const drop = mine[0];
  if (!drop) return null;
  const run = reach.runs.find((one) => one.drop_id === drop.id);
  const kind = kinds.find((one) => one.key === drop.kind);
  const title = drop.label || `${kind?.name}, ${rooms.find((room) => room.id === drop.room_id)?.name}`;
  const set = (changes: object) => edit({ type: "change_drops", ids: [drop.id], changes });
  const built = drop.built_x_m == null ? "" : `${exact(drop.built_x_m)} ${exact(drop.built_y_m ?? 0)}`;
  const setBuilt = async (text: string) => {
    if (!text.trim()) return set({ built_x_m: null, built_y_m: null });
    const pair = text
      .trim()
      .split(/[\s;]+/)
      .map(Number);
    if (pair.length !== 2 || pair.some((value) => !Number.isFinite(value))) {
      say(words.pathSheet.cornersOdd);
      return false;
    }
    return set({ built_x_m: pair[0], built_y_m: pair[1] });
  };
  return (
    <Sheet aria-label={`${w.title}: ${title}`}>
      <Heading>
        <h2>{title}</h2>
        <span>{run && `${length(run.length_m)} ${lengthUnit()}`}</span>
      </Heading>
      {mine.length > 1 && <p>{w.several(mine.length)}</p>}
      {!run && <p>{w.behind}</p>}
      {run && (
        <>
          <p className="faint">{w.state[run.state]}</p>
          {run.stretches.map((stretch, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a stretch is known by its place
            <div className="line piece" key={place}>
              <span>
                {stretch.path_id != null ? (
                  <Word onPress={() => choose({ path: stretch.path_id, drops: new Set() })}>{stretch.text}</Word>
                ) : (
                  stretch.text
                )}
                {stretch.temperature_c > 20 && <i> {figure(stretch.temperature_c)} °C</i>}
              </span>
              <span>
                {length(stretch.length_m)} {lengthUnit()}
              </span>
            </div>
          ))}
          <Line label={w.measured}>
            <Amount
              label={w.measured}
              value={drop.run_m ?? null}
              usual={run.computed_m ?? undefined}
              metres
              least={0.1}
              most={10_000}
              set={(run_m) => set({ run_m })}
            />
            <i>{lengthUnit()}</i>
            {drop.run_m != null && run.computed_m != null && (
              <i>
                {w.computed} {length(run.computed_m)}
              </i>
            )}
          </Line>
          {paths.length > 0 && (
            <>
              <Line label={w.via}>
                <Choice
                  label={w.via}
                  value={drop.via_id == null ? "" : String(drop.via_id)}
                  options={[["", w.free], ...paths.map((path): [string, string] => [String(path.id), path.name])]}
                  set={(number) => set({ via_id: number ? Number(number) : null })}
                />
              </Line>
              <Line label={w.avoid}>
                <Some
                  label={w.avoid}
                  none={w.none}
                  value={drop.avoid_ids}
                  options={paths}
                  set={(avoid_ids) => set({ avoid_ids })}
                />
              </Line>
            </>
          )}
          <Line label={w.built}>
            <Text label={`${w.built}: ${w.builtWhy}`} placeholder={w.builtWhy} value={built} set={setBuilt} />
          </Line>
          {drop.built_x_m != null && (
            <Line label={w.builtReason}>
              <Text label={w.builtReason} value={drop.built_why} set={(built_why) => set({ built_why })} />
            </Line>
          )}
          <Line label={w.hours}>
            <span>
              {figure(run.hours)} h <i>{w.share}</i>
            </span>
          </Line>
        </>
      )}
    </Sheet>
  );
}
