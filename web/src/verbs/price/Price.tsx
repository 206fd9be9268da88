import { lazy } from "react";
import { VerbViews } from "../../frame/VerbViews";
import { words } from "../../words";
import { PartsView } from "./PartsView";

const WorkView = lazy(() => import("./WorkView").then((module) => ({ default: module.WorkView })));
const VisitsView = lazy(() => import("./VisitsView").then((module) => ({ default: module.VisitsView })));
const PhasesView = lazy(() => import("./PhasesView").then((module) => ({ default: module.PhasesView })));
const MovingView = lazy(() => import("./MovingView").then((module) => ({ default: module.MovingView })));
const OffersView = lazy(() => import("./OffersView").then((module) => ({ default: module.OffersView })));
const PaidView = lazy(() => import("./PaidView").then((module) => ({ default: module.PaidView })));
const VIEWS = {
  parts: PartsView,
  work: WorkView,
  visits: VisitsView,
  phases: PhasesView,
  moving: MovingView,
  offers: OffersView,
  paid: PaidView,
} as const;

/** Every part, every hour, every visit, in phases that each work. */
export function Price() {
  return <VerbViews verb="price" label={words.price.views} names={words.price.view} views={VIEWS} />;
}
