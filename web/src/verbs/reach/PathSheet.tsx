import type { Path, PathFill } from "../../api/client";
import { addTo, changeIn } from "../../api/edits";
import { useWork } from "../../api/work";
import { Choice } from "../../kit/Choice";
import { cornersOf, cornersText } from "../../kit/corners";
import { Amount, Paragraph, Text } from "../../kit/fields";
import { figure, length, lengthUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { usePathKinds } from "./useReach";

const w = words.pathSheet;
/** Kinds that cables fill as they fill a conduit. */
const CLOSED = new Set<string>(["conduit", "trunking", "outside", "buried"]);

/** All that is known of a path, what it holds, and what its kind asks of whoever pulls through it. */
export function PathSheet({ path, fill }: { path: Path; fill?: PathFill }) {
  const { outcome, edit, say, choose } = useWork();
  const kinds = usePathKinds();
  const { floors, path_rates: rates } = outcome.project;
  const kind = kinds.find((one) => one.key === path.kind);
  const rate = rates.find((one) => one.kind === path.kind);
  const set = (changes: Partial<Path>) => edit(changeIn("paths", path.id, changes));
  const setRate = (changes: {
    hours_per_m?: number | null;
    difficulty?: number | null;
    tools?: string | null;
    caution?: string | null;
  }) =>
    rate
      ? edit({ type: "change_entry", list: "path_rates", id: rate.id, changes })
      : edit(addTo("path_rates", { kind: path.kind, ...changes }));
  const setCorners = async (text: string) => {
    const points = cornersOf(text);
    if (!points) {
      say(w.cornersOdd);
      return false;
    }
    return set({ points });
  };
  return (
    <Sheet aria-label={path.name}>
      <Heading>
        <h2>{path.name}</h2>
        <span>{fill && `${length(fill.length_m)} ${lengthUnit()}, ${words.reach.holds(fill.drop_ids.length)}`}</span>
      </Heading>
      <Line label={w.name}>
        <Text label={w.name} value={path.name} set={(name) => set({ name })} />
      </Line>
      <Line label={w.kind}>
        <Choice
          label={w.kind}
          value={path.kind}
          options={kinds.map((one) => [one.key, one.name])}
          set={(kind) => set({ kind })}
        />
      </Line>
      <Line label={w.on}>
        <Choice
          label={w.on}
          value={path.to_floor_id == null ? "" : String(path.to_floor_id)}
          options={[
            ["", w.only],
            ...floors
              .filter((one) => one.id !== path.floor_id)
              .map((one): [string, string] => [String(one.id), one.name]),
          ]}
          set={(number) => set({ to_floor_id: number ? Number(number) : null })}
        />
      </Line>
      <Line label={w.corners}>
        <Text label={`${w.corners}: ${w.cornersWhy}`} value={cornersText(path.points)} most={2000} set={setCorners} />
      </Line>
      <Line label={w.height}>
        <Amount
          label={w.height}
          value={path.height_m ?? null}
          metres
          least={-10}
          most={100}
          set={(height_m) => set({ height_m })}
        />
        <i>
          {lengthUnit()} {w.above}
        </i>
      </Line>
      <Line label={w.warmth}>
        <Amount
          label={w.warmth}
          value={path.temperature_c ?? null}
          usual={kind?.temperature_c}
          least={-40}
          most={90}
          set={(temperature_c) => set({ temperature_c })}
        />
        <i>°C</i>
      </Line>
      {CLOSED.has(path.kind) && (
        <Line label={w.inside}>
          <Amount label={w.wide} value={path.inner_mm ?? null} most={2000} set={(inner_mm) => set({ inner_mm })} />
          <i>{w.wide}</i>
        </Line>
      )}
      {(path.kind === "tray" || path.kind === "trunking" || path.kind === "outside") && (
        <Line label={w.tray}>
          <Amount
            label={`${w.tray}: width`}
            value={path.width_mm ?? null}
            most={2000}
            set={(width_mm) => set({ width_mm, depth_mm: width_mm == null ? null : (path.depth_mm ?? width_mm) })}
          />
          <i>{w.by}</i>
          <Amount
            label={`${w.tray}: depth`}
            value={path.depth_mm ?? null}
            most={2000}
            set={(depth_mm) => set({ depth_mm, width_mm: depth_mm == null ? null : (path.width_mm ?? depth_mm) })}
          />
          <i>{w.trayWhy}</i>
        </Line>
      )}
      {CLOSED.has(path.kind) && (
        <Line label={w.pull}>
          <Amount
            label={w.pull}
            value={path.pull_points}
            most={50}
            set={(pull_points) => set({ pull_points: pull_points ?? 0 })}
          />
          <i>{w.pullWhy}</i>
        </Line>
      )}
      <Line label={w.mains}>
        <Tick label={w.mainsWhy} value={path.with_mains} set={(with_mains) => set({ with_mains })} />
        <i>{w.mainsWhy}</i>
      </Line>
      <Line label={w.there}>
        <Tick label={w.thereWhy} value={path.existing} set={(existing) => set({ existing })} />
        <i>{w.thereWhy}</i>
      </Line>
      <Line label={w.rate}>
        <Amount
          label={kind ? w.rateWhy(kind.name) : w.rate}
          value={rate?.hours_per_m ?? null}
          usual={kind?.hours_per_m}
          most={20}
          set={(hours_per_m) => setRate({ hours_per_m })}
        />
        <i>{w.perMetre}</i>
      </Line>
      <Line label={w.difficulty}>
        <Amount
          label={`${w.difficulty}, ${w.difficultyWhy}`}
          value={rate?.difficulty ?? null}
          usual={kind?.difficulty}
          least={1}
          most={5}
          set={(difficulty) => setRate({ difficulty })}
        />
        <i>{w.difficultyWhy}</i>
      </Line>
      {fill && fill.drop_ids.length > 0 && (
        <Line label={w.runs}>
          <span>
            {`${w.bundle} ${figure(fill.bundle_mm)} mm, `}
            {fill.used == null ? w.unknownFill : `${figure(fill.used * 100)} % ${w.full}`}
            {fill.rise_k != null && `, ~${figure(fill.rise_k)} K ${w.rise}`}
            {`; ${w.bend} ${figure(fill.bend_mm)} mm`}
          </span>
        </Line>
      )}
      {kind && (
        <Line label={w.tools}>
          <Text
            label={w.tools}
            value={rate?.tools || kind.tools}
            set={(tools) => setRate({ tools: tools === kind.tools ? null : tools })}
          />
        </Line>
      )}
      {kind && (
        <div className="caution">
          <Paragraph
            label={`${w.caution}: ${w.cautionWhy}`}
            value={rate?.caution ?? kind.caution}
            set={(caution) => setRate({ caution: caution === kind.caution ? null : caution })}
          />
        </div>
      )}
      <Paragraph label={w.note} value={path.note} set={(note) => set({ note })} />
      <div className="acts">
        <Word
          onPress={() => {
            edit({ type: "remove_entry", list: "paths", id: path.id });
            choose({ path: null });
          }}
        >
          {w.remove}
        </Word>
        <Word onPress={() => choose({ path: null })}>{w.done}</Word>
      </div>
    </Sheet>
  );
}
