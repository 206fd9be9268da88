import { lazy, Suspense } from "react";
import { NavLink, useParams } from "react-router";
import { useWork } from "../../api/work";
import { Views } from "../../kit/parts";
import { words } from "../../words";
import { EmptyWalk } from "../walk/EmptyWalk";
import { RunsView } from "./RunsView";

const CableView = lazy(() => import("./CableView").then((module) => ({ default: module.CableView })));
const ClosetsView = lazy(() => import("./ClosetsView").then((module) => ({ default: module.ClosetsView })));
const PullView = lazy(() => import("./PullView").then((module) => ({ default: module.PullView })));
const SectionOfRuns = lazy(() => import("./SectionOfRuns").then((module) => ({ default: module.SectionOfRuns })));
const SettingOutView = lazy(() => import("./SettingOutView").then((module) => ({ default: module.SettingOutView })));
const VIEWS = {
  runs: RunsView,
  section: SectionOfRuns,
  closets: ClosetsView,
  "setting-out": SettingOutView,
  pulls: PullView,
  cable: CableView,
} as const;
const DRAWINGS = ["runs", "section"];

/** Every run measured along the paths drawn, where closets belong, how things are set out and pulled, what to buy. */
export function Reach() {
  const { id, outcome } = useWork();
  const { view = "runs" } = useParams();
  if (!outcome.project.rooms.length) return <EmptyWalk />;
  const View = VIEWS[view as keyof typeof VIEWS] ?? RunsView;
  return (
    <Views data-drawing={DRAWINGS.includes(view) || undefined}>
      <nav aria-label={words.reach.views}>
        {(Object.keys(VIEWS) as (keyof typeof VIEWS)[]).map((key) => (
          <NavLink key={key} to={`/projects/${id}/reach/${key}`} className={key === view ? "active" : ""}>
            {words.reach.view[key]}
          </NavLink>
        ))}
      </nav>
      <Suspense fallback={<p aria-busy="true">…</p>}>
        <View />
      </Suspense>
    </Views>
  );
}
