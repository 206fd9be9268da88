import type { Floor } from "../../api/client";
import { addTo, changeIn } from "../../api/edits";
import { useWork } from "../../api/work";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount, Text } from "../../kit/fields";
import { lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { words } from "../../words";

const w = words.floorSheet;
const NEW = "new";

/** A floor and the building that it belongs to: heights for the section, and what the walls are like. */
export function FloorSheet({ floor }: { floor: Floor }) {
  const { outcome, edit } = useWork();
  const { buildings, next_id: nextId } = outcome.project;
  const building = buildings.find((one) => one.id === floor.building_id);
  const set = (changes: Partial<Floor>) => edit(changeIn("floors", floor.id, changes));
  const move = (key: string) => {
    if (key !== NEW) return set({ building_id: key ? Number(key) : null });
    return edit(addTo("buildings", { name: w.newBuilding }), changeIn("floors", floor.id, { building_id: nextId }));
  };
  return (
    <Sheet aria-label={floor.name}>
      <Heading>
        <h2>{floor.name}</h2>
        <span>{building?.name ?? w.open}</span>
      </Heading>
      <Line label={w.name}>
        <Text label={w.name} value={floor.name} set={(name) => set({ name })} />
      </Line>
      <Line label={w.building}>
        <Choice
          label={w.building}
          value={floor.building_id == null ? "" : String(floor.building_id)}
          options={[
            ["", w.open],
            ...buildings.map((one): [string, string] => [String(one.id), one.name]),
            [NEW, w.another],
          ]}
          set={move}
        />
      </Line>
      {building && (
        <>
          <Line label={w.buildingName}>
            <Text
              label={w.buildingName}
              value={building.name}
              set={(name) => edit(changeIn("buildings", building.id, { name }))}
            />
          </Line>
          <Line label={w.detour}>
            <Amount
              label={w.detour}
              value={building.detour}
              least={1}
              most={3}
              set={(detour) => edit(changeIn("buildings", building.id, { detour: detour ?? 1 }))}
            />
            <i>{w.detourWhy}</i>
          </Line>
          <Line label={w.state}>
            <Choice
              label={w.state}
              value={building.state}
              options={optionsOf(w.states)}
              set={(state) => edit(changeIn("buildings", building.id, { state }))}
            />
          </Line>
          <Line label={w.level}>
            <Amount
              label={w.level}
              value={floor.level}
              least={-9}
              most={99}
              set={(level) => set({ level: Math.round(level ?? 0) })}
            />
            <i>{w.levelWhy}</i>
          </Line>
        </>
      )}
      <Line label={w.height}>
        <Amount
          label={w.height}
          value={floor.height_m}
          metres
          least={1.5}
          most={30}
          set={(height) => (height === null ? Promise.resolve(false) : set({ height_m: height }))}
        />
        <i>{lengthUnit()}</i>
      </Line>
      {building && (
        <>
          <Line label={w.slab}>
            <Amount
              label={w.slab}
              value={floor.slab_m}
              metres
              least={0.02}
              most={3}
              set={(slab) => (slab === null ? Promise.resolve(false) : set({ slab_m: slab }))}
            />
            <i>{lengthUnit()}</i>
          </Line>
          <Line label={w.ceiling}>
            <Choice
              label={w.ceiling}
              value={floor.ceiling}
              options={optionsOf(w.ceilings)}
              set={(ceiling) => set({ ceiling })}
            />
          </Line>
          <Line label={w.construction}>
            <Choice
              label={w.construction}
              value={floor.construction}
              options={optionsOf(w.constructions)}
              set={(construction) => set({ construction })}
            />
          </Line>
        </>
      )}
    </Sheet>
  );
}
