import styled from "styled-components";
import type { Floor } from "../../api/client";
import { useWork } from "../../api/work";
import { words } from "../../words";

/** Floors that have rooms (all of them while none has), building by building from the lowest up. */
export function useFloors(): readonly Floor[] {
  const { rooms, floors } = useWork().outcome.project;
  const inBuilding = (id: number | null | undefined) => id ?? Number.POSITIVE_INFINITY;
  const ordered = [...floors].sort(
    (a, b) => inBuilding(a.building_id) - inBuilding(b.building_id) || a.level - b.level,
  );
  const used = ordered.filter((floor) => rooms.some((room) => room.floor_id === floor.id));
  return used.length ? used : ordered;
}

/** The floors of a site, one of them looked at. */
export function FloorTabs(props: { floors: readonly Floor[]; now: number; choose: (floor: number) => void }) {
  return (
    <Tabs role="group" aria-label={words.plan.floors}>
      {props.floors.map((floor) => (
        <button
          key={floor.id}
          type="button"
          aria-pressed={floor.id === props.now}
          onClick={() => props.choose(floor.id)}
        >
          {floor.name}
        </button>
      ))}
    </Tabs>
  );
}

const Tabs = styled.div`
  display: flex; gap: 12px; flex-wrap: wrap;
  button { background: none; border: 0; padding: 0; cursor: pointer; font-weight: 550; border-bottom: 2px solid transparent; }
  button[aria-pressed="true"] { border-bottom-color: var(--ink); }
`;
