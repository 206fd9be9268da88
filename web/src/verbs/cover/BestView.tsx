import { type BestViewsFor, data, type Edit, http } from "../../api/client";
import { useAsked, useLastReply, useSearch, useSettled, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Searching } from "../../instruments/Searching";
import { figure, length, lengthUnit, money } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { words } from "../../words";
import { AnswerColumns, AtMostList, CoverPage } from "./page";
import { useCover } from "./useCover";

const w = words.best;
type Answer = NonNullable<BestViewsFor["reply"]>["answers"][number];
type CameraPlaced = Answer["cameras"][number];

/** Where cameras meet all targets: the fewest and the least price beside what stands, taken with one press. */
export function BestView() {
  const { id, outcome } = useWork();
  const settled = useSettled(outcome.revision);
  const asked = useAsked<BestViewsFor>(["best-views", settled], true, (signal) =>
    data(http.GET("/api/projects/{project_id}/cover/best", { params: { path: { project_id: id } }, signal })),
  ).data;
  const { stop, again } = useSearch({ type: "best_views" });
  const found = useLastReply(asked);
  const cover = useCover();
  const underway = asked?.underway;
  const reply = found?.reply;
  const targets = outcome.project.targets ?? [];
  const [fewest, cheapest] = reply?.answers ?? [];
  const areSame = fewest && cheapest && isSame(fewest, cheapest);
  const answers = areSame ? [fewest] : (reply?.answers ?? []);
  const nameOf = (target: number) => targets.find((one) => one.id === target)?.name ?? "";
  return (
    <CoverPage>
      <div>
        <Heading>
          <h2>{w.title}</h2>
        </Heading>
        {reply && <p>{reply.why_not ? `${reply.why_not}.` : w.over(reply.mounts)}</p>}
        <Searching underway={underway} told={w.searching} stop={stop} again={again} />
        {reply && !reply.why_not && (
          <AnswerColumns data-old={found?.revision !== outcome.revision || undefined}>
            <article>
              <h3>{w.stands}</h3>
              <p>{w.cameras(reply.cameras)}</p>
              <p>{w.met(reply.met_now.length, targets.length)}</p>
              <ol>
                {cover?.targets.map((target) => (
                  <li key={target.id} data-met={target.met || undefined}>
                    {target.name}
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
                of={targets.length}
                met={targets.length - reply.unmet.length}
                nameOf={nameOf}
              />
            ))}
          </AnswerColumns>
        )}
        {reply && reply.at_most.length > 0 && (
          <section aria-label={w.atMost}>
            <Heading>
              <h2>{w.atMost}</h2>
            </Heading>
            <AtMostList>
              {reply.at_most.map((one) => (
                <li key={one.cameras}>
                  {w.atMostLine(one.cameras, one.targets)}
                  <i>{one.proven ? "" : `, ${w.notProven}`}</i>
                </li>
              ))}
            </AtMostList>
            {reply.unmet.length > 0 && <p>{w.unmet(reply.unmet.map(nameOf).join(", "))}</p>}
          </section>
        )}
      </div>
      <div>
        <Findings verb="cover" />
      </div>
    </CoverPage>
  );
}

/** Whether two answers have the same cameras. */
const isSame = (one: Answer, other: Answer) => JSON.stringify(one.cameras) === JSON.stringify(other.cameras);

function OneAnswer(props: {
  answer: Answer;
  title: string;
  isOld: boolean;
  of: number;
  met: number;
  nameOf: (target: number) => string;
}) {
  const { outcome, edit } = useWork();
  const { answer } = props;
  const currency = outcome.project.settings.currency ?? "EUR";
  return (
    <article>
      <h3>{props.title}</h3>
      <p>
        {w.cameras(answer.cameras.length)}, <b>{money(answer.price_minor, currency)}</b>,{" "}
        {answer.proven ? w.proven : w.notProven}
      </p>
      <p>
        {w.met(props.met, props.of)}{" "}
        <Word isDisabled={props.isOld} onPress={() => edit(...(answer.edits as Edit[]))}>
          {w.take}
        </Word>
      </p>
      <ol>
        {answer.cameras.map((camera) => (
          <Camera key={`${camera.x_m} ${camera.y_m} ${camera.height_m}`} camera={camera} nameOf={props.nameOf} />
        ))}
      </ol>
    </article>
  );
}

function Camera({ camera, nameOf }: { camera: CameraPlaced; nameOf: (target: number) => string }) {
  const { outcome, kinds } = useWork();
  const { rooms, drops, settings } = outcome.project;
  const currency = settings.currency ?? "EUR";
  const roomOf = (id: number | undefined) => rooms.find((room) => room.id === id)?.name ?? "";
  const drop = drops.find((one) => one.id === camera.drop_id);
  const kind = kinds.find((one) => one.key === "camera")?.name ?? "";
  const moved = drop && (drop.label || `${kind}, ${roomOf(drop.room_id)}`);
  return (
    <li>
      <b>{camera.name}</b>
      <span>{w.at(roomOf(camera.room_id), camera.on, `${length(camera.height_m, 2)} ${lengthUnit()}`)}</span>
      {camera.bracket_name && <span>{w.on(camera.bracket_name)}</span>}
      <span>{w.aim(figure(camera.bearing_deg), figure(camera.tilt_deg), figure(camera.field_deg))}</span>
      <span>
        {w.price(
          money(camera.camera_minor, currency),
          money(camera.run_minor, currency),
          `${length(camera.run_m)} ${lengthUnit()}`,
        )}
      </span>
      <i>{camera.target_ids.map(nameOf).join(", ")}</i>
      <em>{moved ? w.moves(moved) : w.fresh}</em>
    </li>
  );
}
