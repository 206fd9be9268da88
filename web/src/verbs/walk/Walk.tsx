import styled from "styled-components";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { NARROW } from "../../kit/theme";
import { EmptyWalk } from "./EmptyWalk";
import { Ledger } from "./Ledger";
import { Tally } from "./Tally";

/** Every drop, room by room: the tally, under it the ledger, beside them the findings. */
export function Walk() {
  const { outcome } = useWork();
  if (!outcome.project.rooms.length) return <EmptyWalk />;
  return (
    <Surface>
      <div>
        <Tally />
        <Ledger />
      </div>
      <Findings />
    </Surface>
  );
}

const Surface = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 306px; min-height: 100%;
  > div { padding: 8px 14px 20px 16px; min-width: 0; display: grid; gap: 12px; align-content: start;
    grid-template-columns: minmax(0, 1fr);
  }
  > section { border-left: 1px solid var(--rule); padding: 8px 16px 20px; }
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
    > section { border-left: 0; border-top: 1px solid var(--rule); }
  }
  @media print { grid-template-columns: 1fr; }
`;
