import { lazy } from "react";
import { VerbViews } from "../../frame/VerbViews";
import { words } from "../../words";
import { SightView } from "./SightView";

const StandingView = lazy(() => import("./StandingView").then((module) => ({ default: module.StandingView })));
const BestView = lazy(() => import("./BestView").then((module) => ({ default: module.BestView })));
const FootageView = lazy(() => import("./FootageView").then((module) => ({ default: module.FootageView })));
const SiteView = lazy(() => import("./SiteView").then((module) => ({ default: module.SiteView })));
const VIEWS = { sight: SightView, standing: StandingView, best: BestView, kept: FootageView, site: SiteView } as const;

/** What cameras see, on the plan and standing up, and what must be seen. */
export function Cover() {
  return (
    <VerbViews
      verb="cover"
      label={words.cover.views}
      names={words.cover.view}
      views={VIEWS}
      drawings={["sight", "standing"]}
    />
  );
}
