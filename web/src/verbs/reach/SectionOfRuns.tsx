import { useChosen, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { DrawingSurface } from "../../instruments/plan/DrawingSurface";
import { Section } from "../../instruments/plan/Section";
import { TakeAlong } from "../../instruments/plan/TakeAlong";
import { useLayout } from "../../instruments/plan/useLayout";
import { PathList } from "./PathList";
import { PathSheet } from "./PathSheet";
import { RunSheet } from "./RunSheet";
import { RunTable } from "./RunTable";
import { useReach } from "./useReach";

/** The site cut open: every path at its height, every run over, down and round, and the runs as a table. */
export function SectionOfRuns() {
  const { outcome } = useWork();
  const chosen = useChosen();
  const layout = useLayout();
  const reach = useReach();
  if (!layout || !reach) return null;
  const path = outcome.project.paths.find((one) => one.id === chosen.path);
  return (
    <DrawingSurface className="with-table section">
      <div className="drawing">
        <Section layout={layout.layout} ways={layout.ways} paths={reach.paths} more={<TakeAlong of="section" />} />
        <RunTable reach={reach} />
      </div>
      <div className="beside">
        {path ? <PathSheet path={path} fill={reach.paths.find((one) => one.path_id === path.id)} /> : null}
        {!path && (chosen.drops.size > 0 ? <RunSheet reach={reach} /> : <PathList fills={reach.paths} />)}
        <Findings verb="reach" />
      </div>
    </DrawingSurface>
  );
}
