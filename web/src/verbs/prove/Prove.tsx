import { lazy } from "react";
import { VerbViews } from "../../frame/VerbViews";
import { words } from "../../words";
import { RunsView } from "./RunsView";

const OrderView = lazy(() => import("./OrderView").then((module) => ({ default: module.OrderView })));
const BenchView = lazy(() => import("./BenchView").then((module) => ({ default: module.BenchView })));
const PowerUpView = lazy(() => import("./PowerUpView").then((module) => ({ default: module.PowerUpView })));
const TracingView = lazy(() => import("./TracingView").then((module) => ({ default: module.TracingView })));
const AcceptanceView = lazy(() => import("./AcceptanceView").then((module) => ({ default: module.AcceptanceView })));
const VIEWS = {
  order: OrderView,
  bench: BenchView,
  "power-up": PowerUpView,
  runs: RunsView,
  tracing: TracingView,
  acceptance: AcceptanceView,
} as const;

/** Built in order, every run tested, unlabelled cable traced, every goal shown as met. */
export function Prove() {
  return <VerbViews verb="prove" label={words.prove.views} names={words.prove.view} views={VIEWS} />;
}
