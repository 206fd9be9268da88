import { lazy } from "react";
import { VerbViews } from "../../frame/VerbViews";
import { words } from "../../words";
import { RunsView } from "./RunsView";

const TracingView = lazy(() => import("./TracingView").then((module) => ({ default: module.TracingView })));
const AcceptanceView = lazy(() => import("./AcceptanceView").then((module) => ({ default: module.AcceptanceView })));
const VIEWS = { runs: RunsView, tracing: TracingView, acceptance: AcceptanceView } as const;

/** Every run tested, unlabelled cable traced, every goal shown as met. */
export function Prove() {
  return <VerbViews verb="prove" label={words.prove.views} names={words.prove.view} views={VIEWS} />;
}
