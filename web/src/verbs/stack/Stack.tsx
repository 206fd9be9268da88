import { lazy } from "react";
import { VerbViews } from "../../frame/VerbViews";
import { words } from "../../words";
import { ClosetView } from "./ClosetView";

const AirView = lazy(() => import("./AirView").then((module) => ({ default: module.AirView })));
const CutView = lazy(() => import("./CutView").then((module) => ({ default: module.CutView })));
const HousingView = lazy(() => import("./HousingView").then((module) => ({ default: module.HousingView })));
const VIEWS = { rack: ClosetView, air: AirView, cut: CutView, housing: HousingView } as const;

/** What stands in every closet: drawn to scale, cool, fed, and kept alive through a power cut. */
export function Stack() {
  return (
    <VerbViews verb="stack" label={words.stack.views} names={words.stack.view} views={VIEWS} drawings={["rack"]} />
  );
}
