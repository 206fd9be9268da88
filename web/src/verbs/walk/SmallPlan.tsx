import { Link } from "react-router";
import styled from "styled-components";
import { useChosen, useWork } from "../../api/work";
import { FloorPlan } from "../../instruments/plan/FloorPlan";
import { useLayout } from "../../instruments/plan/useLayout";
import { Heading } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";

/** The floor of the chosen room beside the tally: the same selection, seen from above. */
export function SmallPlan() {
  const { id, outcome } = useWork();
  const chosen = useChosen();
  const layout = useLayout();
  const { rooms, floors } = outcome.project;
  const dropRoom = outcome.project.drops.find((drop) => chosen.drops.has(drop.id))?.room_id;
  const room = rooms.find((one) => one.id === (dropRoom ?? chosen.roomId)) ?? rooms[0];
  const floor = floors.find((one) => one.id === room?.floor_id);
  if (!layout || !floor) return null;
  return (
    <Beside>
      <Heading>
        <h2>{floor.name}</h2>
        <Link to={`/projects/${id}/walk/plan`}>{words.plan.open}</Link>
      </Heading>
      <FloorPlan key={floor.id} floor={floor} layout={layout.layout} ways={layout.ways} />
    </Beside>
  );
}

const Beside = styled.div`
  display: grid; grid-template-rows: auto 190px;
  ${NARROW} { display: none; }
`;
