import { useState } from "react";
import styled from "styled-components";
import { data, http, type SetOut } from "../../api/client";
import { addTo } from "../../api/edits";
import { useChosen, useOfRevision, useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { FloorPlan } from "../../instruments/plan/FloorPlan";
import { FloorTabs, useFloors } from "../../instruments/plan/FloorTabs";
import { onGrid, type Spot } from "../../instruments/plan/geometry";
import { LandmarkMarks } from "../../instruments/plan/LandmarkMarks";
import { useLayout } from "../../instruments/plan/useLayout";
import { SheetWord } from "../../instruments/SheetWord";
import { Amount, Text } from "../../kit/fields";
import { length, lengthUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Sided } from "../../kit/sided";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";

const w = words.settingOut;
const STEP_M = 0.05;

/** Every device on ceiling and wall from two walls and a landmark; where it came to stand is written beside it. */
export function SettingOutView() {
  const { outcome, edit, choose } = useWork();
  const layout = useLayout();
  const floors = useFloors();
  const [picked, setPicked] = useState<number | null>(null);
  const [setting, setSetting] = useState(false);
  const found = useOfRevision("setting-out", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/setting-out", { params: { path }, signal })),
  );
  if (!found || !layout) return null;
  const onFloor = (number: number) => found.devices.filter((device) => device.floor_id === number);
  const fullest = [...floors].sort((a, b) => onFloor(b.id).length - onFloor(a.id).length)[0];
  const floor = floors.find((one) => one.id === picked) ?? fullest;
  if (!floor) return null;
  const { landmarks = [] } = outcome.project;
  const here = onFloor(floor.id);
  const setHere = async (spot: Spot) => {
    const values = {
      name: w.newLandmark(landmarks.length + 1),
      floor_id: floor.id,
      x_m: onGrid(spot[0], STEP_M),
      y_m: onGrid(spot[1], STEP_M),
    };
    if (await edit(addTo("landmarks", values))) setSetting(false);
  };
  return (
    <Surface>
      <section aria-label={w.title}>
        <Heading>
          <h2>{w.title}</h2>
          <span>{w.lead}</span>
          <SheetWord sheet="setting-out" />
        </Heading>
        <div className="tools">
          <FloorTabs
            floors={floors}
            now={floor.id}
            choose={(number) => {
              setPicked(number);
              choose({ roomId: null, drops: new Set(), path: null });
            }}
          />
          <Word className={setting ? "on" : ""} onPress={() => setSetting(!setting)}>
            {w.set}
          </Word>
          {setting && <span>{w.setting}</span>}
        </div>
        {/* biome-ignore lint/a11y/noStaticElementInteractions: Esc leaves the setting of a landmark */}
        <div className="plan" onKeyDown={(event) => event.key === "Escape" && setSetting(false)}>
          <FloorPlan
            key={floor.id}
            floor={floor}
            layout={layout.layout}
            ways={[]}
            measuring={setting ? [] : null}
            onMeasured={setHere}
            over={(px) => <LandmarkMarks floor={floor.id} px={px} />}
          />
        </div>
        {found.devices.length === 0 && <p className="said">{w.none}</p>}
        <ul>
          {here.map((device) => (
            <Device key={device.drop_id} device={device} label={found.labels[device.drop_id] ?? ""} />
          ))}
        </ul>
      </section>
      <div className="beside">
        <p className="said">{w.caution}</p>
        <EntryList
          title={w.landmarks}
          lead={w.landmarksLead}
          list="landmarks"
          rows={landmarks}
          name={(mark) => mark.name}
          fields={[
            { key: "name", as: { type: "text", width: 16, strong: true } },
            {
              key: "floor_id",
              before: words.pathSheet.floor,
              as: { type: "choice", numeric: true, options: floors.map((one) => [String(one.id), one.name]) },
            },
            { key: "x_m", before: "x", as: { type: "number", width: 5, least: -5000, most: 5000 }, after: "m" },
            { key: "y_m", before: "y", as: { type: "number", width: 5, least: -5000, most: 5000 }, after: "m" },
          ]}
          add={{ placeholder: w.addLandmark, values: (name) => ({ name, floor_id: floor.id, x_m: 0, y_m: 0 }) }}
        />
        <Findings verb="reach" />
      </div>
    </Surface>
  );
}

function Device({ device, label }: { device: SetOut; label: string }) {
  const { outcome, kinds, edit, choose } = useWork();
  const chosen = useChosen();
  const { drops, rooms } = outcome.project;
  const drop = drops.find((one) => one.id === device.drop_id);
  const kind = kinds.find((one) => one.key === drop?.kind)?.name ?? "";
  const room = rooms.find((one) => one.id === device.room_id)?.name ?? "";
  const unit = lengthUnit();
  const m = (value: number) => length(value, 2);
  const { landmark } = device;
  const built = device.built_offsets;
  const record = (first: number | null, second: number | null, why = device.built_why) =>
    edit({ type: "record_built", drop_id: device.drop_id, first_m: first, second_m: second, why });
  const name = label || `${kind}, ${room}`;
  return (
    <li data-chosen={chosen.drops.has(device.drop_id) || undefined}>
      <button
        type="button"
        aria-pressed={chosen.drops.has(device.drop_id)}
        onClick={() => choose({ drops: new Set([device.drop_id]), roomId: device.room_id, path: null })}
      >
        <b>{label}</b> {kind}, {room}
      </button>
      <span className="faint">
        {device.mount === "ceiling" ? w.ceiling : w.high(m(device.height_m), unit)}
        {!device.placed && `; ${w.notPlaced}`}
      </span>
      <span className="offsets">
        <b>{w.from(m(device.first.m), unit, device.first.wall.side)}</b>
        <b>{w.from(m(device.second.m), unit, device.second.wall.side)}</b>
      </span>
      <span className="faint">
        {landmark &&
          w.landmark(
            landmark.landmark.name,
            `${m(Math.abs(landmark.right_m))} ${unit} ${landmark.right_m >= 0 ? w.right : w.left}`,
            `${m(Math.abs(landmark.down_m))} ${unit} ${landmark.down_m >= 0 ? w.down : w.up}`,
          )}
      </span>
      <span className="built">
        <i>{w.built}</i>
        <Amount
          label={w.builtOf(name, device.first.wall.side)}
          value={built?.[0] ?? null}
          metres
          most={1000}
          set={(value) => record(value, built?.[1] ?? null)}
        />
        <i>{w.builtFrom(device.first.wall.side)}</i>
        <Amount
          label={w.builtOf(name, device.second.wall.side)}
          value={built?.[1] ?? null}
          metres
          most={1000}
          set={(value) => record(built?.[0] ?? null, value)}
        />
        <i>{w.builtFrom(device.second.wall.side)}</i>
        {built && (
          <>
            <Text
              label={w.whyOf(name)}
              placeholder={w.why}
              value={device.built_why}
              set={(why) => record(built[0] ?? null, built[1] ?? null, why)}
            />
            <i>{w.moved(m(device.moved_m), unit)}</i>
          </>
        )}
      </span>
    </li>
  );
}

const Surface = styled(Sided)`
  > section { padding: 6px 14px 20px 16px; display: grid; gap: 6px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  .tools { display: flex; gap: 4px 16px; align-items: baseline; flex-wrap: wrap; }
  .tools > span { color: var(--faint); }
  .tools .on { font-weight: 650; color: var(--clay); }
  .plan { height: 250px; display: grid; }
  .said { font: 14px/1.35 var(--voice); max-width: 64ch; }
  .faint { color: var(--faint); }
  > section {
    > ul { border-top: 1px solid var(--ink); }
    > ul > li { display: grid; grid-template-columns: minmax(0, 1.6fr) minmax(0, 0.8fr) minmax(0, 1.8fr) minmax(0, 1.6fr); gap: 1px 12px; padding: 4px 0; border-bottom: 1px solid var(--rule); align-items: baseline; }
    > ul > li[data-chosen] { background: var(--earth); }
    > ul > li > button { background: none; border: 0; padding: 0; text-align: left; cursor: pointer; }
    b { font-weight: 600; }
    .offsets { display: flex; gap: 2px 12px; flex-wrap: wrap; }
    .built { grid-column: 1 / -1; display: flex; gap: 4px 6px; align-items: baseline; flex-wrap: wrap; }
    .built i { font-style: normal; color: var(--faint); }
    .built input { background: none; border: 0; border-bottom: 1px dotted var(--faint); padding: 0 1px; width: 22ch; }
    .built input.r { width: 6ch; text-align: right; }
    .built input::placeholder { color: var(--faint); opacity: 1; }
  }
  ${NARROW} {
    > section > ul > li { grid-template-columns: minmax(0, 1fr); padding: 9px 0; gap: 3px; }
    > section .built input.r { width: 8ch; font-size: 16px; }
  }
`;
