import type { Drop, DropChanges } from "../../api/client";
import { useWork } from "../../api/work";
import { PhotoRow } from "../../instruments/PhotoRow";
import { useLayout } from "../../instruments/plan/useLayout";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount, Paragraph, Text } from "../../kit/fields";
import { lengthUnit, speed } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { CATEGORIES } from "./ledgerColumns";

const w = words.dropSheet;
const SPEEDS = [100, 1000, 2500, 5000, 10000] as const;
const CLASSES = [0, 1, 2, 3, 4, 5, 6, 7, 8];

/** All that is known of a drop; of several, what they share, and a change goes to all of them. */
export function DropSheet({ drops }: { drops: readonly Drop[] }) {
  const { outcome, edit, kinds, choose } = useWork();
  const layout = useLayout();
  const drop = drops[0];
  if (!drop) return null;
  const spot = layout?.layout.drops.find((one) => one.id === drop.id);
  const { rooms, closets, own_kinds: ownKinds } = outcome.project;
  const closet = closets.find((one) => one.id === drop.closet_id);
  const kind = kinds.find((one) => one.key === drop.kind);
  const own = ownKinds.find((one) => one.id === drop.own_kind_id);
  const room = rooms.find((one) => one.id === drop.room_id);
  const ids = drops.map((one) => one.id);
  const set = (changes: DropChanges) => edit({ type: "change_drops", ids, changes });
  const alike = new Set(drops.map((one) => one.kind)).size === 1;
  const feeders = outcome.project.drops.filter(
    (one) =>
      !ids.includes(one.id) &&
      kinds
        .find((line) => line.key === one.kind)
        ?.variants.some((form, place) => form.lan_ports > 0 && (one.variant ? form.key === one.variant : place === 0)),
  );
  const recorders = outcome.project.drops.filter((one) => one.kind === "recorder" || one.kind === "nas");
  const title = drops.length > 1 ? w.several(drops.length) : drop.label || `${own?.name ?? kind?.name}, ${room?.name}`;
  return (
    <Sheet aria-label={title}>
      <Heading>
        <h2>{title}</h2>
      </Heading>
      {alike && kind && (
        <>
          {drops.length === 1 && (
            <Line label={w.label}>
              <Text label={w.label} value={drop.label} set={(label) => set({ label })} />
            </Line>
          )}
          {kind.variants.length > 0 && (
            <Line label={w.form}>
              <Choice
                label={w.form}
                value={drop.variant || (kind.variants[0]?.key ?? "")}
                options={kind.variants.map((form): [string, string] => [form.key, form.name])}
                set={(variant) => set({ variant })}
              />
            </Line>
          )}
        </>
      )}
      <Line label={w.room}>
        <Choice
          label={w.room}
          value={String(drop.room_id)}
          options={rooms.map((one): [string, string] => [String(one.id), one.name])}
          set={(number) => set({ room_id: Number(number) })}
        />
      </Line>
      <Line label={w.place}>
        <Text label={w.place} value={drop.place} set={(place) => set({ place })} />
        <Amount
          label={w.height}
          value={drop.height_m ?? null}
          usual={spot?.height_m}
          metres
          least={-10}
          most={100}
          set={(height_m) => set({ height_m })}
        />
        <i>{lengthUnit()}</i>
      </Line>
      <Line label={w.purpose}>
        <Text label={w.purpose} value={drop.purpose} set={(purpose) => set({ purpose })} />
      </Line>
      <Line label={w.speed}>
        <Choice
          label={w.speed}
          value={String(drop.speed_mbit)}
          options={SPEEDS.map((value): [string, string] => [String(value), speed(value)])}
          set={(value) => set({ speed_mbit: Number(value) as Drop["speed_mbit"] })}
        />
        <Tick label={w.live} value={drop.in_use} set={(in_use) => set({ in_use })} />
        <i>{w.live}</i>
      </Line>
      <Line label={w.power}>
        <Choice
          label={w.power}
          value={drop.poe_class == null ? drop.supply : String(drop.poe_class)}
          powered={drop.poe_class != null}
          options={[
            ...optionsOf(w.supplies),
            ...CLASSES.map((value): [string, string] => [String(value), w.classOf(value)]),
          ]}
          set={(value) =>
            /^\d$/.test(value)
              ? set({ poe_class: Number(value), supply: "" })
              : set({ poe_class: null, supply: value as Drop["supply"] })
          }
        />
        <Amount
          label={w.draw}
          value={drop.draw_w || null}
          most={100}
          powered={drop.poe_class != null}
          set={(value) => set({ draw_w: value ?? 0 })}
        />
        <i>W</i>
      </Line>
      {drop.poe_class != null && (
        <Line label={w.measured}>
          <Amount
            label={w.measured}
            value={drop.measured_w ?? null}
            most={100}
            set={(measured_w) => set({ measured_w })}
          />
          <i>{w.atPort}</i>
        </Line>
      )}
      {drop.poe_class != null && (
        <Line label={w.priority}>
          <Choice
            label={w.priority}
            value={drop.priority}
            options={optionsOf(words.drill.priority)}
            set={(priority) => set({ priority })}
          />
        </Line>
      )}
      {drop.kind === "camera" && alike && (
        <Line label={w.pixels}>
          <Amount
            label={w.pixels}
            value={drop.megapixels ?? null}
            least={0.3}
            most={64}
            set={(megapixels) => set({ megapixels })}
          />
          <i>MP</i>
          <Amount
            label={w.frames}
            value={drop.frames_s}
            least={0.2}
            most={120}
            set={(frames_s) => set({ frames_s: frames_s ?? 15 })}
          />
          <i>{w.perSecond}</i>
          <Choice label={w.codec} value={drop.codec} options={optionsOf(w.codecs)} set={(codec) => set({ codec })} />
        </Line>
      )}
      {drop.kind === "camera" && alike && recorders.length > 0 && (
        <Line label={w.recorder}>
          <Choice
            label={w.recorder}
            value={drop.recorder_id == null ? "" : String(drop.recorder_id)}
            options={[
              ["", w.firstRecorder],
              ...recorders.map((one): [string, string] => [
                String(one.id),
                one.label ||
                  `${kinds.find((line) => line.key === one.kind)?.name}, ${rooms.find((r) => r.id === one.room_id)?.name}`,
              ]),
            ]}
            set={(number) => set({ recorder_id: number ? Number(number) : null })}
          />
        </Line>
      )}
      {feeders.length > 0 && (
        <Line label={w.behind}>
          <Choice
            label={w.behind}
            value={drop.behind_id == null ? "" : String(drop.behind_id)}
            options={[
              ["", closet?.name ?? w.closet],
              ...feeders.map((one): [string, string] => [
                String(one.id),
                one.label ||
                  `${kinds.find((line) => line.key === one.kind)?.name}, ${rooms.find((r) => r.id === one.room_id)?.name}`,
              ]),
            ]}
            set={(number) => set({ behind_id: number ? Number(number) : null })}
          />
        </Line>
      )}
      {drop.behind_id == null && closets.length > 1 && (
        <Line label={w.endsIn}>
          <Choice
            label={w.endsIn}
            value={String(drop.closet_id)}
            options={closets.map((one): [string, string] => [String(one.id), one.name])}
            set={(number) => set({ closet_id: Number(number) })}
          />
        </Line>
      )}
      {drop.behind_id == null && (
        <Line label={w.run}>
          <Amount
            label={w.run}
            value={drop.run_m ?? null}
            usual={outcome.balance.run_m[drop.id]}
            metres
            least={0.1}
            most={10_000}
            set={(run_m) => set({ run_m })}
          />
          <i>{lengthUnit()}</i>
          <Choice
            label={w.category}
            value={drop.category}
            options={CATEGORIES.map((key) => [key, w.categoryOf(key)])}
            set={(category) => set({ category })}
          />
          <Tick label={w.clad} value={drop.copper_clad} set={(copper_clad) => set({ copper_clad })} />
          <i>{w.clad}</i>
        </Line>
      )}
      <Line label={w.jacket}>
        <Choice
          label={w.jacket}
          value={String(drop.outdoor_jacket)}
          options={optionsOf(w.jackets)}
          set={(value) => set({ outdoor_jacket: value === "true" })}
        />
        <Choice
          label={w.environment}
          value={drop.environment}
          options={optionsOf(w.environments)}
          set={(environment) => set({ environment })}
        />
      </Line>
      <Line label={w.screen}>
        <Tick label={w.screened} value={drop.screened} set={(screened) => set({ screened })} />
        <i>{w.screened}</i>
      </Line>
      <Line label={w.surface}>
        <Choice
          label={w.surface}
          value={drop.surface}
          options={optionsOf(w.surfaces)}
          set={(surface) => set({ surface })}
        />
      </Line>
      <Line label={w.cable}>
        <Choice
          label={w.cable}
          value={String(drop.existing)}
          options={optionsOf(w.cables)}
          set={(value) => set({ existing: value === "true" })}
        />
        <Tick label={w.powerOnly} value={drop.power_only} set={(power_only) => set({ power_only })} />
        <i>{w.powerOnly}</i>
      </Line>
      <Line label={w.socket}>
        <Choice
          label={w.socket}
          value={drop.socket == null ? "" : String(drop.socket)}
          options={optionsOf(w.sockets)}
          set={(value) => set({ socket: value === "" ? null : value === "true" })}
        />
        <Tick label={w.largeFrames} value={drop.large_frames} set={(large_frames) => set({ large_frames })} />
        <i>{w.largeFrames}</i>
      </Line>
      <Paragraph label={w.note} value={drop.note} set={(note) => set({ note })} />
      {drops.length === 1 && (
        <PhotoRow
          photos={drop.photos ?? []}
          set={(photos) => edit({ type: "change_drops", ids: [drop.id], changes: { photos } })}
        />
      )}
      <div className="acts">
        <Word onPress={() => edit({ type: "duplicate_drops", ids, aside_m: 0.5 })}>{w.duplicate}</Word>
        <Word
          onPress={() => {
            edit({ type: "remove_drops", ids });
            choose({ drops: new Set() });
          }}
        >
          {w.remove(ids.length)}
        </Word>
        <Word onPress={() => choose({ drops: new Set() })}>{w.done}</Word>
      </div>
    </Sheet>
  );
}
