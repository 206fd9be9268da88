import { useState } from "react";
import styled from "styled-components";
import { data, http, type Schemas } from "../../api/client";
import { addTo, type Edit } from "../../api/edits";
import { useOfRevision, useWork } from "../../api/work";
import { SheetWord } from "../../instruments/SheetWord";
import { figure } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { TraceField } from "./TraceField";
import { TraceSetUp } from "./TraceSetUp";
import { NextStep, OtherReading, Steps } from "./TraceSteps";

const w = words.tracing;
const whole = (minutes: number) => figure(Math.ceil(minutes));
export type Panel = Schemas["PanelTold"];
export type TracedJack = Schemas["JackTold"];

/** Unlabelled cable: where each jack may end, and what to do next. */
export function TracingView() {
  const { id, outcome, edit } = useWork();
  const [chosen, choose] = useState<number | null>(null);
  const told = useOfRevision("tracing", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/prove/tracing", { params: { path }, signal })),
  );
  if (!told) return null;
  const { closets } = outcome.project;
  const untraced = closets.filter((closet) => !told.panels.some((panel) => panel.closet_id === closet.id));
  return (
    <>
      {told.panels.map((panel) => {
        const jack = panel.jacks.find((one) => one.id === chosen);
        return (
          <Page key={panel.closet_id}>
            <div>
              <Heading>
                <h2>{panel.name}</h2>
                <span>
                  {w.sum(panel.found, panel.dead, panel.left)}
                  {panel.left > 0 && ` · ${w.minutes(whole(panel.minutes_one), whole(panel.minutes_two))}`}
                  <i>{panel.minutes_spent > 0 && ` · ${w.spent(whole(panel.minutes_spent))}`}</i>
                </span>
              </Heading>
              <TraceField panel={panel} chosen={chosen} choose={choose} />
              <p className="acts">
                {panel.take.length > 0 && (
                  <Word onPress={() => edit(...(panel.take as Edit[]))}>{w.take(panel.take.length)}</Word>
                )}
                <SheetWord sheet="tracing">{w.sheet}</SheetWord>
                <a href={`/api/projects/${id}/prove/tracing.csv`}>{w.csv}</a>
                {panel.error > 0 && <small>{w.off(`${Math.ceil(panel.error * 100)} %`)}</small>}
              </p>
              <TraceSetUp panel={panel} />
            </div>
            <div className="now">
              <NextStep panel={panel} isNow={told.revision === outcome.revision} />
              <OtherReading key={jack?.id} panel={panel} jack={jack} />
              <Steps panel={panel} />
            </div>
          </Page>
        );
      })}
      {untraced.length > 0 && (
        <Begin>
          {told.panels.length === 0 && <p>{w.empty}</p>}
          {untraced.map((closet) => (
            <Word key={closet.id} onPress={() => edit(addTo("trace_sheets", { closet_id: closet.id, positions: 24 }))}>
              {w.begin(closet.name)}
            </Word>
          ))}
        </Begin>
      )}
    </>
  );
}

const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 330px; gap: 26px; padding: 10px 16px 20px;
  > div { display: grid; gap: 16px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  .acts { display: flex; gap: 4px 18px; flex-wrap: wrap; align-items: baseline; small { color: var(--faint); font-size: 12.5px; } }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); .now { order: -1; } }
`;
const Begin = styled.div`
  display: flex; gap: 6px 18px; flex-wrap: wrap; align-items: baseline; padding: 10px 16px 20px;
  p { font: 16px/1.4 var(--voice); color: var(--faint); width: 100%; }
`;
