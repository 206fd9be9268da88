import { lazy, Suspense } from "react";
import { NavLink, useParams } from "react-router";
import styled from "styled-components";
import { useChosen, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Views } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { DropSheet } from "./DropSheet";
import { EmptyWalk } from "./EmptyWalk";
import { Ledger } from "./Ledger";
import { SmallPlan } from "./SmallPlan";
import { Tally } from "./Tally";

const PlanView = lazy(() => import("./PlanView").then((module) => ({ default: module.PlanView })));
const SectionView = lazy(() => import("./SectionView").then((module) => ({ default: module.SectionView })));
const InAndOut = lazy(() => import("./InAndOut").then((module) => ({ default: module.InAndOut })));
const History = lazy(() => import("./History").then((module) => ({ default: module.History })));

export const VIEWS = ["tally", "plan", "section", "list", "history"] as const;

/** Every drop, room by room: counted in the tally, one by one in the ledger, placed on the plan, cut open in the section. */
export function Walk() {
  const { id, outcome } = useWork();
  const { view = "tally" } = useParams();
  const empty = !outcome.project.rooms.length;
  if (empty && view !== "list" && view !== "history") return <EmptyWalk />;
  return (
    <Views data-drawing={view === "plan" || view === "section" || undefined}>
      <nav aria-label={words.walk.views}>
        {VIEWS.map((key) => (
          <NavLink key={key} to={`/projects/${id}/walk/${key}`} className={key === view ? "active" : ""}>
            {words.walk.view[key]}
          </NavLink>
        ))}
      </nav>
      <Suspense fallback={<p aria-busy="true">…</p>}>
        {view === "plan" && <PlanView />}
        {view === "section" && <SectionView />}
        {view === "list" && <InAndOut />}
        {view === "history" && <History />}
        {view === "tally" && (
          <Surface>
            <div>
              <Tally />
              <Ledger />
            </div>
            <div className="beside">
              <SmallPlan />
              <ChosenDrops />
              <Findings verb="walk" />
            </div>
          </Surface>
        )}
      </Suspense>
    </Views>
  );
}

function ChosenDrops() {
  const { outcome } = useWork();
  const chosen = useChosen();
  const drops = outcome.project.drops.filter((drop) => chosen.drops.has(drop.id));
  return drops.length > 0 && <DropSheet drops={drops} />;
}

const Surface = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 306px;
  > div { padding: 6px 14px 20px 16px; min-width: 0; display: grid; gap: 12px; align-content: start;
    grid-template-columns: minmax(0, 1fr);
  }
  > .beside { border-left: 1px solid var(--rule); padding: 6px 16px 20px; margin-top: -28px; padding-top: 10px; }
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
    > .beside { border-left: 0; border-top: 1px solid var(--rule); margin-top: 0; }
  }
  @media print { grid-template-columns: 1fr; }
`;
