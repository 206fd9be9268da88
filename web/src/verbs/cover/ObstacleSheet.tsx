import type { Schemas, SignalFor } from "../../api/client";
import { changeIn } from "../../api/edits";
import { useWork } from "../../api/work";
import { Choice, optionsOf } from "../../kit/Choice";
import { cornersOf, cornersText } from "../../kit/corners";
import { Amount, Text } from "../../kit/fields";
import { lengthUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { words } from "../../words";

const w = words.obstacles;
const BANDS = [
  ["loss_2_db", "2.4"],
  ["loss_5_db", "5"],
  ["loss_6_db", "6"],
] as const;
/** What stands in a room: racking, stock, a machine, with its height and what it takes off. */
export function ObstacleSheet({ id, signal, done }: { id: number; signal: SignalFor; done: () => void }) {
  const { outcome, edit, say } = useWork();
  const row = outcome.project.obstacles?.find((one) => one.id === id);
  if (!row) return null;
  const set = (changes: Partial<Schemas["Obstacle"]>) => edit(changeIn("obstacles", id, changes));
  const counted = signal.in_the_way.find((one) => one.obstacle_id === id);
  const setCorners = async (text: string) => {
    const outline = cornersOf(text);
    if (outline) return set({ outline });
    say(words.pathSheet.cornersOdd);
    return false;
  };
  return (
    <Sheet aria-label={row.name}>
      <Heading>
        <h2>{row.name}</h2>
        <Word onPress={done}>{words.targets.done}</Word>
      </Heading>
      <Line label={w.name}>
        <Text label={w.name} value={row.name} set={(name) => set({ name })} />
      </Line>
      <Line label={w.kind}>
        <Choice
          label={w.kind}
          value={row.kind ?? "racking"}
          options={optionsOf(w.kinds)}
          set={(kind) => set({ kind })}
        />
      </Line>
      <Line label={w.top}>
        <Amount
          label={w.top}
          value={row.height_m ?? null}
          usual={counted?.top_m}
          metres
          least={0.05}
          most={30}
          set={(height_m) => set({ height_m })}
        />
        <i>
          {lengthUnit()} {words.viewSheet.heightWhy}
        </i>
      </Line>
      <Line label={w.loss}>
        {BANDS.map(([key, band], place) => (
          <Amount
            key={key}
            label={`${w.loss} ${words.signal.bands[band]}`}
            value={row[key] ?? null}
            usual={counted?.losses_db[place]}
            most={60}
            set={(value) => set({ [key]: value })}
          />
        ))}
      </Line>
      <Line label="">
        <i>{w.lossWhy}</i>
      </Line>
      <Line label={words.targets.corners}>
        <Text label={words.targets.corners} value={cornersText(row.outline)} most={2000} set={setCorners} />
      </Line>
      <div className="acts">
        <Word
          onPress={() => {
            edit({ type: "remove_entry", list: "obstacles", id });
            done();
          }}
        >
          {words.targets.remove}
        </Word>
      </div>
    </Sheet>
  );
}
