import { type BestStationsFor, data, type Edit, http } from "../../api/client";
import { useAsked, useLastReply, useSearch, useSettled, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Searching } from "../../instruments/Searching";
import { exact, figure, length, lengthUnit, money } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { words } from "../../words";
import { AnswerColumns, AtMostList, CoverPage } from "./page";

const w = words.stations;
type Answer = NonNullable<BestStationsFor["reply"]>["answers"][number];
const WIFI = ["coverage", "calls", "heavy"];

/** Where access points meet all goals of Wi-Fi: the fewest and the least price beside what stands. */
export function PlacesView() {
  const { id, outcome } = useWork();
  const settled = useSettled(outcome.revision);
  const asked = useAsked<BestStationsFor>(["best-stations", settled], true, (signal) =>
    data(http.GET("/api/projects/{project_id}/signal/best", { params: { path: { project_id: id } }, signal })),
  ).data;
  const { stop, again } = useSearch({ type: "best_stations" });
  const found = useLastReply(asked);
  const underway = asked?.underway;
  const reply = found?.reply;
  const goals = (outcome.project.goals ?? []).filter((goal) => WIFI.includes(goal.kind));
  const nameOf = (number: number) => {
    const goal = goals.find((one) => one.id === number);
    const rooms = outcome.project.rooms.filter((room) => goal?.room_ids?.includes(room.id)).map((room) => room.name);
    return rooms.join(", ") || words.signal.anywhere;
  };
  const [fewest, cheapest] = reply?.answers ?? [];
  const areSame = fewest && cheapest && JSON.stringify(fewest.stations) === JSON.stringify(cheapest.stations);
  const answers = areSame ? [fewest] : (reply?.answers ?? []);
  return (
    <CoverPage>
      <div>
        <Heading>
          <h2>{w.title}</h2>
        </Heading>
        {reply && <p>{reply.why_not ? `${reply.why_not}.` : w.over(reply.spots)}</p>}
        <Searching underway={underway} told={words.best.searching} stop={stop} again={again} />
        {reply && !reply.why_not && (
          <AnswerColumns data-old={found?.revision !== outcome.revision || undefined}>
            <article>
              <h3>{words.best.stands}</h3>
              <p>{w.count(reply.stations)}</p>
              <p>{w.met(reply.met_now.length, goals.length)}</p>
              <ol>
                {goals.map((goal) => (
                  <li key={goal.id} data-met={reply.met_now.includes(goal.id) || undefined}>
                    {nameOf(goal.id)}
                  </li>
                ))}
              </ol>
            </article>
            {answers.map((answer) => (
              <OneAnswer
                key={answer.aim}
                answer={answer}
                title={areSame ? w.both : w.aims[answer.aim]}
                isOld={found?.revision !== outcome.revision}
                met={w.met(goals.length - reply.unmet.length, goals.length)}
              />
            ))}
          </AnswerColumns>
        )}
        {reply && reply.at_most.length > 0 && (
          <section>
            <Heading>
              <h2>{w.atMost}</h2>
            </Heading>
            <AtMostList>
              {reply.at_most.map((line) => (
                <li key={line.stations}>
                  {w.atMostLine(line.stations, figure(line.share * 100))}
                  <i>{line.proven ? "" : `, ${words.best.notProven}`}</i>
                </li>
              ))}
            </AtMostList>
            {reply.unmet.length > 0 && <p>{w.unmet(reply.unmet.map(nameOf).join("; "))}</p>}
          </section>
        )}
      </div>
      <div>
        <Findings verb="cover" />
      </div>
    </CoverPage>
  );
}

function OneAnswer(props: { answer: Answer; title: string; met: string; isOld: boolean }) {
  const { answer, title, met } = props;
  const { outcome, edit } = useWork();
  const { rooms, drops, settings } = outcome.project;
  const currency = settings.currency ?? "EUR";
  const roomOf = (id: number | undefined) => rooms.find((room) => room.id === id)?.name ?? "";
  const movedFrom = (id: number) => {
    const drop = drops.find((one) => one.id === id);
    return drop?.label || roomOf(drop?.room_id);
  };
  const bound = answer.aim === "fewest" ? w.count(answer.bound) : money(answer.bound, currency);
  return (
    <article>
      <h3>{title}</h3>
      <p>
        {w.count(answer.stations.length)}, <b>{money(answer.price_minor, currency)}</b>,{" "}
        {answer.proven ? w.proven : w.atLeast(bound)}
      </p>
      {answer.fullest != null && <p>{w.fullest(figure(answer.fullest * 100))}</p>}
      <p>
        {met}
        {answer.goes.length > 0 && `, ${w.goes(answer.goes.length)}`}{" "}
        <Word isDisabled={props.isOld} onPress={() => edit(...(answer.edits as Edit[]))}>
          {words.best.take}
        </Word>
      </p>
      <ol>
        {answer.stations.map((one) => (
          <li key={`${one.floor_id} ${one.x_m} ${one.y_m}`}>
            <b>{one.name}</b>
            <span>{w.at(roomOf(one.room_id), w.forms[one.on], exact(one.x_m), exact(one.y_m))}</span>
            <span>
              {words.best.price(
                money(one.station_minor, currency),
                money(one.run_minor, currency),
                `${length(one.run_m)} ${lengthUnit()}`,
              )}
            </span>
            <em>{one.drop_id == null ? words.best.fresh : words.best.moves(movedFrom(one.drop_id))}</em>
          </li>
        ))}
      </ol>
    </article>
  );
}
