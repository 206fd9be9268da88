import { lazy, Suspense } from "react";
import { NavLink, useParams } from "react-router";
import { useWork } from "../../api/work";
import { Views } from "../../kit/parts";
import { words } from "../../words";
import { EmptyWalk } from "../walk/EmptyWalk";
import { PowerView } from "./PowerView";

const TrafficView = lazy(() => import("./TrafficView").then((module) => ({ default: module.TrafficView })));
const DrillView = lazy(() => import("./DrillView").then((module) => ({ default: module.DrillView })));
const VIEWS = { power: PowerView, traffic: TrafficView, drill: DrillView } as const;

/** What the runs and links carry: watts and volts, traffic hop by hop, and who is fed when boxes come up. */
export function Load() {
  const { id, outcome } = useWork();
  const { view = "power" } = useParams();
  if (!outcome.project.rooms.length) return <EmptyWalk />;
  const View = VIEWS[view as keyof typeof VIEWS] ?? PowerView;
  return (
    <Views>
      <nav aria-label={words.load.views}>
        {(Object.keys(VIEWS) as (keyof typeof VIEWS)[]).map((key) => (
          <NavLink key={key} to={`/projects/${id}/load/${key}`} className={key === view ? "active" : ""}>
            {words.load.view[key]}
          </NavLink>
        ))}
      </nav>
      <Suspense fallback={<p aria-busy="true">…</p>}>
        <View />
      </Suspense>
    </Views>
  );
}
