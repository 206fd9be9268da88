import { lazy, Suspense } from "react";
import { NavLink, useParams } from "react-router";
import { useWork } from "../../api/work";
import { Views } from "../../kit/parts";
import { words } from "../../words";
import { EmptyWalk } from "../walk/EmptyWalk";
import { RunsView } from "./RunsView";

const CableView = lazy(() => import("./CableView").then((module) => ({ default: module.CableView })));
const VIEWS = ["runs", "cable"] as const;

/** Every run measured along the paths drawn, and the cable that it takes. */
export function Reach() {
  const { id, outcome } = useWork();
  const { view = "runs" } = useParams();
  if (!outcome.project.rooms.length) return <EmptyWalk />;
  return (
    <Views data-drawing={view === "runs" || undefined}>
      <nav aria-label={words.reach.views}>
        {VIEWS.map((key) => (
          <NavLink key={key} to={`/projects/${id}/reach/${key}`} className={key === view ? "active" : ""}>
            {words.reach.view[key]}
          </NavLink>
        ))}
      </nav>
      <Suspense fallback={<p aria-busy="true">…</p>}>{view === "cable" ? <CableView /> : <RunsView />}</Suspense>
    </Views>
  );
}
