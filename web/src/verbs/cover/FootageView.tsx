import styled from "styled-components";
import { type DropChanges, data, type FootageFor, http } from "../../api/client";
import type { Edit } from "../../api/edits";
import { useOfRevision, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { exact, figure, money } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Tick } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { CoverPage } from "./page";

const w = words.footage;
type CameraKept = FootageFor["cameras"][number];
type RecorderKept = FootageFor["recorders"][number];

/** What is kept of what cameras film: streams and days, the recorders, and what would keep it for the least price. */
export function FootageView() {
  const { outcome } = useWork();
  const footage = useOfRevision("footage", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/footage", { params: { path }, signal })),
  );
  if (!footage) return null;
  return (
    <CoverPage>
      <div>
        <Cameras footage={footage} />
        <Recorders footage={footage} />
        <Least footage={footage} currency={outcome.project.settings.currency ?? "EUR"} />
      </div>
      <div>
        <Goals footage={footage} />
        <Findings verb="cover" />
      </div>
    </CoverPage>
  );
}

/** How a drop is spoken of: its label, else kind and room. */
function useNameOf() {
  const { outcome, kinds } = useWork();
  const { drops, rooms } = outcome.project;
  return (number: number) => {
    const drop = drops.find((one) => one.id === number);
    const room = rooms.find((one) => one.id === drop?.room_id)?.name ?? "";
    return drop?.label || `${kinds.find((kind) => kind.key === drop?.kind)?.name ?? ""}, ${room}`;
  };
}

function Cameras({ footage }: { footage: FootageFor }) {
  const total = footage.cameras.reduce((sum, one) => sum + one.tb, 0);
  return (
    <section aria-label={w.cameras}>
      <Heading>
        <h2>{w.cameras}</h2>
        <span>{w.lead}</span>
      </Heading>
      <Wide>
        <Table>
          <thead>
            <tr>
              <th>{w.camera}</th>
              <th>{w.codec}</th>
              <th data-figure>{w.frames}</th>
              <th>{w.quality}</th>
              <th data-figure>{w.mbit}</th>
              <th data-figure>{w.day}</th>
              <th data-figure>{w.night}</th>
              <th data-figure>{w.days}</th>
              <th data-figure>{w.tb}</th>
              <th>{w.keeps}</th>
            </tr>
          </thead>
          <tbody>
            {footage.cameras.map((camera) => (
              <Camera key={camera.drop_id} camera={camera} />
            ))}
          </tbody>
          <tfoot>
            <tr>
              <td colSpan={8} />
              <td data-figure>
                <b>{figure(total)}</b>
              </td>
              <td />
            </tr>
          </tfoot>
        </Table>
      </Wide>
    </section>
  );
}

function Camera({ camera }: { camera: CameraKept }) {
  const { outcome, edit } = useWork();
  const nameOf = useNameOf();
  const { drops } = outcome.project;
  const drop = drops.find((one) => one.id === camera.drop_id);
  if (!drop) return null;
  const name = nameOf(drop.id);
  const set = (changes: DropChanges) => edit({ type: "change_drops", ids: [drop.id], changes });
  const keepers = drops.filter((one) => one.kind === "recorder" || one.kind === "nas");
  const isKept = camera.by_service || camera.recorder_id != null;
  return (
    <tr>
      <th scope="row">{name}</th>
      <td>
        <Choice
          label={`${w.codec}, ${name}`}
          value={drop.codec ?? "h264"}
          options={optionsOf(w.codecs)}
          set={(codec) => set({ codec })}
        />
      </td>
      <td data-figure>
        <Amount
          label={`${w.frames}, ${name}`}
          value={drop.frames_s ?? 15}
          least={0.2}
          most={120}
          set={(frames_s) => set({ frames_s: frames_s ?? 15 })}
        />
      </td>
      <td>
        <Choice
          label={`${w.quality}, ${name}`}
          value={drop.quality ?? "usual"}
          options={optionsOf(w.qualities)}
          set={(quality) => set({ quality })}
        />
      </td>
      <td data-figure>{figure(camera.mbit)}</td>
      <td data-figure>
        <Amount
          label={`${w.day}, ${name}`}
          value={drop.record_day_percent ?? 100}
          most={100}
          set={(percent) => set({ record_day_percent: percent ?? 100 })}
        />
      </td>
      <td data-figure>
        <Amount
          label={`${w.night}, ${name}`}
          value={drop.record_night_percent ?? 100}
          most={100}
          set={(percent) => set({ record_night_percent: percent ?? 100 })}
        />
      </td>
      <td data-figure>
        <Amount
          label={`${w.days}, ${name}`}
          value={drop.keep_days ?? null}
          usual={camera.days}
          least={0.1}
          most={3650}
          set={(keep_days) => set({ keep_days })}
        />
      </td>
      <td data-figure>{exact(Math.round(camera.tb * 100) / 100)}</td>
      <td>
        <Choice
          label={`${w.keeps}, ${name}`}
          value={camera.by_service ? "service" : String(camera.recorder_id ?? "")}
          options={[
            ...(isKept ? [] : [["", w.nobody] as const]),
            ...keepers.map((one) => [String(one.id), nameOf(one.id)] as const),
            ["service", w.service],
          ]}
          set={(key) =>
            set(key === "service" ? { by_service: true } : { by_service: false, recorder_id: Number(key) || null })
          }
        />
      </td>
    </tr>
  );
}

function Recorders({ footage }: { footage: FootageFor }) {
  return (
    <section aria-label={w.recorders}>
      <Heading>
        <h2>{w.recorders}</h2>
        {!footage.recorders.length && <span>{w.none}</span>}
      </Heading>
      <Lines>
        {footage.recorders.map((one) => (
          <Recorder key={one.drop_id} one={one} />
        ))}
      </Lines>
    </section>
  );
}

function Recorder({ one }: { one: RecorderKept }) {
  const { edit } = useWork();
  const name = useNameOf()(one.drop_id);
  const set = (changes: DropChanges) => edit({ type: "change_drops", ids: [one.drop_id], changes });
  const days = one.least_days == null ? "" : `: ${w.keepsDays(figure(one.least_days))}`;
  const planned = one.planned ? `, ${w.planned(one.planned)}` : "";
  return (
    <li>
      <b>{name}</b>
      <span>{`${w.streams(one.camera_ids.length, figure(one.mbit))}${planned}`}</span>
      <Fields>
        <Amount label={`${w.disks}, ${name}`} value={one.disks} least={1} most={64} set={(disks) => set({ disks })} />
        {w.disks}
        <Amount
          label={`${w.tb}, ${name}`}
          value={one.disk_tb}
          least={0.1}
          most={100}
          set={(disk_tb) => set({ disk_tb })}
        />
        {w.tb}, {w.raid}
        <Choice
          label={`${w.raid}, ${name}`}
          value={one.raid}
          options={optionsOf(w.levels)}
          set={(raid) => set({ raid })}
        />
      </Fields>
      <Told data-short={(one.share_then ?? 1) < 1 || undefined}>
        {one.holds_tb == null ? w.unknown : `${w.holds(figure(one.holds_tb), figure(one.tb_then))}${days}.`}
      </Told>
    </li>
  );
}

/** The least price: taken, its disks stand in the recorders on the list, and cameras are kept where it says. */
function Least({ footage, currency }: { footage: FootageFor; currency: string }) {
  const { outcome, edit } = useWork();
  const { least, names } = footage;
  const recorders = outcome.project.drops.filter((one) => one.kind === "recorder");
  const take = () => {
    const edits = least.boxes.flatMap((box, place): Edit[] => {
      const recorder = recorders[place];
      if (!recorder) return [];
      const { disks, disk_tb, raid } = box;
      const bought = { model: box.recorder || null, disk_model: box.disk };
      const stands: Edit = { type: "change_drops", ids: [recorder.id], changes: { disks, disk_tb, raid, ...bought } };
      const kept: Edit = { type: "change_drops", ids: box.camera_ids, changes: { recorder_id: recorder.id } };
      return box.camera_ids.length ? [stands, kept] : [stands];
    });
    edit(...edits);
  };
  return (
    <section aria-label={w.least}>
      <Heading>
        <h2>{w.least}</h2>
        <span>
          {least.boxes.length
            ? `${money(least.price_minor, currency)}, ${least.proven ? w.proven : w.notProven}`
            : least.why_not}
        </span>
      </Heading>
      <Lines>
        {least.boxes.map((box) => (
          <li key={`${box.recorder} ${box.camera_ids.join()} ${box.disk}`}>
            <b>{names[box.recorder] ?? w.inRouter}</b>
            <span>{w.box(box.disks, names[box.disk] ?? "", box.raid)}</span>
            <span>{w.for(box.cameras, figure(box.tb))}</span>
            <Price>{money(box.price_minor, currency)}</Price>
          </li>
        ))}
      </Lines>
      <Fields>
        <Tick
          value={outcome.project.settings.disk_may_fail ?? false}
          set={(disk_may_fail) => edit({ type: "change_settings", changes: { disk_may_fail } })}
        >
          {w.mayFail}
        </Tick>
        {least.boxes.length > 0 && least.boxes.length <= recorders.length && <Word onPress={take}>{w.take}</Word>}
      </Fields>
    </section>
  );
}

function Goals({ footage }: { footage: FootageFor }) {
  return (
    <section aria-label={w.goals}>
      <Heading>
        <h2>{w.goals}</h2>
      </Heading>
      {footage.goals.length === 0 && <p>{w.noGoal}</p>}
      {footage.goals.map((goal) => (
        <Goal key={goal.goal_id} data-met={goal.met ?? "unknown"}>
          <b>{goal.met == null ? w.notKnown : goal.met ? w.met : w.notMet}</b> {goal.text}.
        </Goal>
      ))}
    </section>
  );
}

const Wide = styled.div`overflow-x: auto;`;
const Table = styled.table`
  width: 100%; min-width: 700px; border-top: 1px solid var(--ink);
  th, td { text-align: left; padding: 3px 8px 3px 0; white-space: nowrap; }
  th { font-weight: 550; }
  thead th { font-weight: 500; color: var(--faint); border-bottom: 1px solid var(--ink); }
  tbody tr { border-bottom: 1px solid var(--rule); }
  [data-figure] { text-align: right; padding-right: 14px; }
  input {
    width: 6ch; text-align: right; background: none; border: 0; border-bottom: 1px dotted var(--faint); border-radius: 0; padding: 0 1px;
  }
`;
const Lines = styled.ul`
  border-top: 1px solid var(--ink);
  li {
    display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(0, 1.1fr) auto; gap: 2px 14px; padding: 5px 0;
    border-bottom: 1px solid var(--rule); align-items: baseline;
  }
  b { font-weight: 550; }
  span { color: var(--faint); }
  ${NARROW} { li { grid-template-columns: minmax(0, 1fr); } }
`;
const Fields = styled.div`
  display: flex; gap: 6px; align-items: baseline; flex-wrap: wrap; padding-top: 3px;
  input:not([type="checkbox"]) {
    width: 5ch; text-align: right; background: none; border: 0; border-bottom: 1px dotted var(--faint); border-radius: 0; padding: 0 1px;
  }
  > :last-child:nth-child(2) { margin-left: auto; }
`;
const Told = styled.p`
  grid-column: 1 / -1; font: 14px/1.35 var(--voice); color: var(--moss);
  &[data-short] { color: var(--clay); }
`;
const Price = styled.i`font-style: normal; text-align: right;`;
const Goal = styled.p`
  font: 15px/1.35 var(--voice); padding: 6px 0;
  b { font: 650 13.5px var(--data); color: var(--clay); }
  &[data-met="true"] b { color: var(--moss); }
  &[data-met="unknown"] b { color: var(--ochre); }
`;
