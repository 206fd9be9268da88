import { lazy } from "react";
import { VerbViews } from "../../frame/VerbViews";
import { words } from "../../words";
import { PowerView } from "./PowerView";

const TrafficView = lazy(() => import("./TrafficView").then((module) => ({ default: module.TrafficView })));
const DrillView = lazy(() => import("./DrillView").then((module) => ({ default: module.DrillView })));
const VIEWS = { power: PowerView, traffic: TrafficView, drill: DrillView } as const;

/** What the runs and links carry: watts and volts, traffic hop by hop, and who is fed when boxes come up. */
export function Load() {
  return <VerbViews verb="load" label={words.load.views} names={words.load.view} views={VIEWS} />;
}
