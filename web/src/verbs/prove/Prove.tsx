import { lazy } from "react";
import { VerbViews } from "../../frame/VerbViews";
import { words } from "../../words";
import { RunsView } from "./RunsView";

const TracingView = lazy(() => import("./TracingView").then((module) => ({ default: module.TracingView })));
const VIEWS = { runs: RunsView, tracing: TracingView } as const;

/** Every run tested, and unlabelled cable traced. */
export function Prove() {
  return <VerbViews verb="prove" label={words.prove.views} names={words.prove.view} views={VIEWS} />;
}
