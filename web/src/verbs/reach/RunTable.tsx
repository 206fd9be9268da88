import styled from "styled-components";
import type { ReachFor } from "../../api/client";
import { useChosen, useWork } from "../../api/work";
import { figure, length, lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";

const w = words.runTable;

/** Every run, longest first; choosing a line shows its way. */
export function RunTable({ reach }: { reach: ReachFor }) {
  const { id, outcome, kinds, choose } = useWork();
  const chosen = useChosen();
  const { project } = outcome;
  const drops = new Map(project.drops.map((drop) => [drop.id, drop]));
  const rooms = new Map(project.rooms.map((room) => [room.id, room.name]));
  const names = new Map(kinds.map((kind) => [kind.key as string, kind.name]));
  const sorted = [...reach.runs].sort((a, b) => b.length_m - a.length_m);
  return (
    <Table aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>{w.total(reach.runs.length, length(reach.total_m, 0), lengthUnit(), figure(reach.hours))}</span>
        <span>
          <a href={`/api/projects/${id}/runs.csv`}>{w.csv}</a> <a href={`/api/projects/${id}/runs.xlsx`}>{w.xlsx}</a>
        </span>
      </Heading>
      <ul>
        {sorted.map((run) => {
          const drop = drops.get(run.drop_id);
          if (!drop) return null;
          const ways = [...new Set(run.stretches.filter((s) => s.path_id != null).map((s) => s.text))].join(", ");
          return (
            <li key={run.drop_id}>
              <button
                type="button"
                aria-pressed={chosen.drops.has(run.drop_id)}
                onClick={() => choose({ drops: new Set([run.drop_id]), roomId: drop.room_id, path: null })}
              >
                <span>{rooms.get(drop.room_id)}</span>
                <span>{drop.label || names.get(drop.kind)}</span>
                <b>
                  {length(run.length_m)} {lengthUnit()}
                </b>
                <span className="way">{ways || words.runSheet.state[run.state]}</span>
                <i>{run.temperature_c > 20 ? `${figure(run.temperature_c)} °C` : ""}</i>
                <i>{figure(run.hours)} h</i>
              </button>
            </li>
          );
        })}
      </ul>
    </Table>
  );
}

const Table = styled.section`
  min-height: 0; display: grid; grid-template-rows: auto minmax(0, 1fr);
  a { color: var(--slate); }
  ul { overflow: auto; border-top: 1px solid var(--ink); }
  li { content-visibility: auto; contain-intrinsic-height: 25px; border-bottom: 1px solid var(--rule); }
  button {
    display: grid; grid-template-columns: minmax(0, 1.2fr) minmax(0, 1.3fr) 72px minmax(0, 2fr) 52px 48px; gap: 10px; width: 100%;
    background: none; border: 0; padding: 3px 2px; text-align: left; cursor: pointer; align-items: baseline;
  }
  button > * { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-style: normal; }
  button b, button i { text-align: right; }
  button b { font-weight: 600; }
  .way, i { color: var(--faint); }
  button:hover { background: var(--earth); }
  button[aria-pressed="true"] { background: var(--earth); }
  ${NARROW} { ul { max-height: 50vh; } button { grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr) 64px; } .way, button i { display: none; } }
`;
