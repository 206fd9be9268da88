import { lazy } from "react";
import { VerbViews } from "../../frame/VerbViews";
import { words } from "../../words";
import { SightView } from "./SightView";

const StandingView = lazy(() => import("./StandingView").then((module) => ({ default: module.StandingView })));
const BestView = lazy(() => import("./BestView").then((module) => ({ default: module.BestView })));
const FootageView = lazy(() => import("./FootageView").then((module) => ({ default: module.FootageView })));
const SignalView = lazy(() => import("./SignalView").then((module) => ({ default: module.SignalView })));
const ChannelView = lazy(() => import("./ChannelView").then((module) => ({ default: module.ChannelView })));
const PlacesView = lazy(() => import("./PlacesView").then((module) => ({ default: module.PlacesView })));
const SurveyView = lazy(() => import("./SurveyView").then((module) => ({ default: module.SurveyView })));
const SiteView = lazy(() => import("./SiteView").then((module) => ({ default: module.SiteView })));
const VIEWS = {
  sight: SightView,
  standing: StandingView,
  best: BestView,
  kept: FootageView,
  signal: SignalView,
  channels: ChannelView,
  places: PlacesView,
  survey: SurveyView,
  site: SiteView,
} as const;

/** What cameras see, what must be seen, and where Wi-Fi is heard. */
export function Cover() {
  return (
    <VerbViews
      verb="cover"
      label={words.cover.views}
      names={words.cover.view}
      views={VIEWS}
      drawings={["sight", "standing", "signal", "survey"]}
    />
  );
}
