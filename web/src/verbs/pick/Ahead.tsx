import { type ReactNode, useState } from "react";
import styled from "styled-components";
import {
  type AheadFor,
  type Aim,
  data,
  type FlipsFor,
  http,
  type Question,
  type Step,
  type StepsFor,
  type Underway,
  type YearLine,
} from "../../api/client";
import { useAsked, useWork } from "../../api/work";
import { BarsUnderLimit } from "../../kit/charts";
import { figure, money } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { Search } from "./Search";

const w = words.ahead;

/** The years to come for an answer: what each asks of it, buying in two steps, and what would change the pick. */
export function Ahead({ aim, letter, revision }: { aim: Aim; letter: string; revision: number }) {
  const { id } = useWork();
  const ahead = useAsked<AheadFor>(["ahead", aim, revision], true, (signal) =>
    data(
      http.GET("/api/projects/{project_id}/picks/{aim}/ahead", { params: { path: { project_id: id, aim } }, signal }),
    ),
  );
  const { reply, underway } = ahead.data ?? {};
  return (
    <Place>
      <section aria-label={w.years(letter)}>
        <Heading>
          <h2>{w.years(letter)}</h2>
          <span>{w.yearsLead}</span>
        </Heading>
        {underway && <Search of={w.name} question={{ type: "ahead", aim }} underway={underway} />}
        {reply && <Years lines={reply.years} />}
      </section>
      <section aria-label={w.steps}>
        <TwoSteps aim={aim} revision={revision} />
        <Flips revision={revision} />
      </section>
    </Place>
  );
}

/** A question that takes many picks: asked by hand, told as it goes. */
function Asking(props: {
  title: string;
  lead: string;
  asked: boolean;
  ask: () => void;
  question: Question;
  underway: Underway | null | undefined;
  children: ReactNode;
}) {
  return (
    <div className="asking">
      <Heading>
        <h2>{props.title}</h2>
        <span>{props.lead}</span>
        {!props.asked && (
          <Word aria-label={`${w.ask}: ${props.title}`} onPress={props.ask}>
            {w.ask}
          </Word>
        )}
      </Heading>
      {props.asked && props.underway && <Search of={props.title} question={props.question} underway={props.underway} />}
      {props.asked && props.children}
    </div>
  );
}

function TwoSteps({ aim, revision }: { aim: Aim; revision: number }) {
  const { id } = useWork();
  const [asked, setAsked] = useState(false);
  const steps = useAsked<StepsFor>(["steps", aim, revision], asked, (signal) =>
    data(
      http.GET("/api/projects/{project_id}/picks/{aim}/steps", { params: { path: { project_id: id, aim } }, signal }),
    ),
  );
  const { reply, underway } = steps.data ?? {};
  return (
    <Asking
      title={w.steps}
      lead={w.stepsLead}
      asked={asked}
      ask={() => setAsked(true)}
      question={{ type: "steps", aim }}
      underway={underway}
    >
      {reply && (reply.steps.length ? <Steps steps={reply.steps} /> : <p className="voice">{w.noSteps}</p>)}
    </Asking>
  );
}

function Years({ lines }: { lines: readonly YearLine[] }) {
  const { outcome } = useWork();
  const horizon = outcome.project.settings.start_year + outcome.project.settings.horizon_years;
  return (
    <>
      <YearsDrawn lines={lines} horizon={horizon} />
      <table>
        <thead>
          <tr>
            <th scope="col">{w.year}</th>
            <th scope="col">{w.drops}</th>
            <th scope="col">{w.ports}</th>
            <th scope="col">{w.powered}</th>
            <th scope="col">{w.watts}</th>
            <th scope="col" data-left>
              {w.verdict}
            </th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.year} data-horizon={line.year === horizon || undefined}>
              <th scope="row">{line.year}</th>
              <td>
                {line.live}
                {line.reserve > 0 && <i>+{line.reserve}</i>}
              </td>
              <Share used={line.ports} limit={line.ports_limit} />
              <Share used={line.powered} limit={line.powered_limit} />
              <Share used={Math.round(line.power_w)} limit={line.power_limit_w} />
              <td data-left>{line.lacks ? <b>{w.short(line.lacks)}</b> : line.year === horizon ? w.horizon : ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** The same years as bars: what each asks of ports, powered ports and watts, against what these boxes have. */
function YearsDrawn({ lines, horizon }: { lines: readonly YearLine[]; horizon: number }) {
  const last = lines.at(-1);
  const first = lines[0];
  if (!first || !last) return null;
  const marks = [...new Set([first.year, horizon, last.year])].map(String);
  const drawn = [
    { title: w.ports, unit: "", of: (line: YearLine) => line.ports, limit: last.ports_limit },
    { title: w.powered, unit: "", of: (line: YearLine) => line.powered, limit: last.powered_limit },
    { title: w.watts, unit: "W", of: (line: YearLine) => Math.round(line.power_w), limit: last.power_limit_w },
  ];
  return (
    <div className="drawn">
      {drawn.map(({ title, unit, of, limit }) => (
        <BarsUnderLimit
          key={title}
          title={title}
          unit={unit}
          limit={limit}
          marks={marks}
          written={figure}
          bars={lines.map((line) => ({ at: String(line.year), today: of(first), all: of(line) }))}
        />
      ))}
    </div>
  );
}

function Share({ used, limit }: { used: number; limit: number }) {
  return (
    <td data-over={used > limit || undefined}>
      {figure(used)} <i>{w.of(figure(limit))}</i>
    </td>
  );
}

function Steps({ steps }: { steps: readonly Step[] }) {
  const { outcome } = useWork();
  const { currency } = outcome.project.settings;
  return (
    <ol>
      {steps.map((step) => (
        <li key={`${step.year}-${step.way}`}>
          <p>
            <strong>
              {w.nowAndThen(money(step.now_minor, currency), money(step.then_minor, currency), step.year)}
            </strong>{" "}
            <span>
              {step.more_minor ? w.more(money(step.more_minor, currency)) : w.noMore}
              {!step.proven && `, ${w.unproven}`}
            </span>
          </p>
          <p className="boxes">
            {w.first} {step.now.join(" · ")}. {w.later} {step.then.join(" · ")}.
          </p>
        </li>
      ))}
    </ol>
  );
}

/** What would make the least price another; asked by hand, for it takes many picks. */
function Flips({ revision }: { revision: number }) {
  const { id } = useWork();
  const [asked, setAsked] = useState(false);
  const flips = useAsked<FlipsFor>(["flips", revision], asked, (signal) =>
    data(http.GET("/api/projects/{project_id}/flips", { params: { path: { project_id: id } }, signal })),
  );
  const { reply, underway } = flips.data ?? {};
  return (
    <Asking
      title={w.flips}
      lead={w.flipsLead}
      asked={asked}
      ask={() => setAsked(true)}
      question={{ type: "flips", aim: "least_price" }}
      underway={underway}
    >
      {reply && (
        <ul>
          {reply.flips.map((flip) => (
            <li key={`${flip.what}-${flip.cheaper}`} data-same={flip.at === null || undefined}>
              {flip.sentence}
            </li>
          ))}
        </ul>
      )}
    </Asking>
  );
}

const Place = styled.div`
  display: grid; grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr); border-bottom: 1px solid var(--ink);
  > section { padding: 8px 16px 18px; min-width: 0; }
  > section + section { border-left: 1px solid var(--rule); }
  .drawn { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 14px; padding: 6px 0 4px; }
  table { width: 100%; border-top: 1px solid var(--rule); }
  tr { border-bottom: 1px solid var(--rule); }
  th, td { text-align: right; padding: 3px 0 3px 10px; font-weight: 400; white-space: nowrap; }
  thead th { color: var(--faint); }
  tbody th, thead th:first-child { text-align: left; padding-left: 0; }
  [data-left] { text-align: left !important; padding-left: 18px; }
  td i { font-style: normal; color: var(--faint); }
  td b { color: var(--clay); font-weight: 600; }
  [data-over] { color: var(--clay); font-weight: 600; }
  [data-horizon] th { font-weight: 650; } [data-horizon] { border-bottom: 1px solid var(--ink); }
  ol li { padding: 5px 0; border-bottom: 1px solid var(--rule); }
  ol strong { font: 600 15px var(--voice); }
  ol span, .boxes { color: var(--faint); }
  .boxes { font-size: 12.5px; font-stretch: 86%; }
  ul li { font: 15px/1.35 var(--voice); padding: 4px 0; border-bottom: 1px solid var(--rule); }
  ul li[data-same] { color: var(--faint); }
  .voice { font: 15px/1.4 var(--voice); padding: 4px 0; }
  .asking + .asking { margin-top: 14px; }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); > section + section { border-left: 0; border-top: 1px solid var(--rule); } > section { overflow-x: auto; } }
  @media (max-width: 560px) {
    table, thead, tbody { display: block; }
    tr { display: grid; grid-template-columns: 40px repeat(2, minmax(0, 1fr)) repeat(2, minmax(0, 1.2fr)); }
    th, td { padding-left: 4px; }
    thead [data-left], [data-left]:empty { display: none; }
    [data-left] { grid-column: 1 / -1; padding-left: 0; white-space: normal; }
  }
`;
