import { lazy } from "react";
import { VerbViews } from "../../frame/VerbViews";
import { words } from "../../words";
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

/** Every run measured along the paths drawn, where closets belong, how things are set out and pulled, what to buy. */
export function Reach() {
  return (
    <VerbViews
      verb="reach"
      label={words.reach.views}
      names={words.reach.view}
      views={VIEWS}
      drawings={["runs", "section"]}
    />
  );
}
