import { useState } from "react";
import styled from "styled-components";
import { type Aim, data, http, type PriceFor, type ReasonsFor, type WhyNot } from "../../api/client";
import { isSearched, useAsked, useLastReply, usePick, useWork } from "../../api/work";
import { Field, Heading, Word } from "../../kit/parts";
import { words } from "../../words";
import { Owned } from "./Owned";
import { Search } from "./Search";

const w = words.pick;
/** A reply that comes so soon needs no word of how far it is [s]. */
const SOON_S = 1;

/** Every model that the answer does not take, and the reason in one sentence. */
export function WhyNotList({ aim }: { aim: Aim }) {
  const { id } = useWork();
  const pick = usePick(aim);
  const revision = pick.data?.revision;
  const [filter, setFilter] = useState("");
  const reasons = useAsked<ReasonsFor>(
    ["reasons", aim, revision],
    Boolean(pick.data?.answer && !pick.data.underway),
    (signal) =>
      data(
        http.GET("/api/projects/{project_id}/picks/{aim}/reasons", {
          params: { path: { project_id: id, aim } },
          signal,
        }),
      ),
  );
  const underway = reasons.data?.underway;
  const reply = useLastReply(reasons.data)?.reply;
  const models = reply?.models ?? [];
  const wanted = filter.trim().toLowerCase().split(/\s+/);
  const shown = models.filter((model) => wanted.every((word) => model.name.toLowerCase().includes(word)));
  return (
    <section aria-label={w.whyNot}>
      <Heading>
        <h2>{w.whyNot}</h2>
        <span>{reply && w.whyNotSummary(models.length)}</span>
        <Field
          aria-label={w.filter}
          placeholder={w.filterPlaceholder}
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
        />
      </Heading>
      {underway && underway.asked_s > SOON_S && (
        <Search of={w.reasons} question={{ type: "reasons", aim }} underway={underway} />
      )}
      <List>
        {shown.map((model) => (
          <Line key={model.model} model={model} aim={aim} revision={revision ?? 0} />
        ))}
      </List>
    </section>
  );
}

function Line({ model, aim, revision }: { model: WhyNot; aim: Aim; revision: number }) {
  const { id, outcome, edit } = useWork();
  const [asked, setAsked] = useState(false);
  const stance = outcome.project.stances.find((other) => other.model === model.model);
  const path = { project_id: id, aim, model: model.model };
  const sure = useAsked<PriceFor>(["price", aim, revision, model.model], asked, (signal) =>
    data(http.GET("/api/projects/{project_id}/picks/{aim}/why-not/{model}", { params: { path }, signal })),
  );
  const told = sure.data?.reply?.sentence ?? sure.data?.underway?.told;
  const asking = sure.isFetching || isSearched(sure.data?.underway);
  const isBox = model.may_stand && (model.kind === "router" || model.kind === "switch");
  const excluded = stance?.excluded ?? false;
  return (
    <li>
      <strong>{model.name}</strong>
      <p>
        {model.sentence} {told && <b>{told}</b>}
        {sure.error && <b>{sure.error.message}</b>}
      </p>
      <span className="acts">
        {isBox && !excluded && !told && (
          <Word isDisabled={asking} aria-label={`${w.ask}: ${model.name}`} onPress={() => setAsked(true)}>
            {asking ? w.asking : w.ask}
          </Word>
        )}
        {isBox && !excluded && (
          <Word
            aria-label={`${w.pin}: ${model.name}`}
            onPress={() => edit({ type: "set_stance", model: model.model, pinned: stance?.pinned ? 0 : 1 })}
          >
            {stance?.pinned ? w.unpin : w.pin}
          </Word>
        )}
        <Owned model={model.model} name={model.name} />
        <Word
          aria-label={`${excluded ? w.admit : w.leaveOut}: ${model.name}`}
          onPress={() => edit({ type: "set_stance", model: model.model, excluded: !excluded })}
        >
          {excluded ? w.admit : w.leaveOut}
        </Word>
      </span>
    </li>
  );
}

const List = styled.ul`
  li {
    display: grid; grid-template-columns: minmax(0, 200px) minmax(0, 1fr) auto; gap: 4px 16px; padding: 6px 0;
    border-bottom: 1px solid var(--rule); align-items: baseline;
  }
  strong { font-weight: 600; font-size: 13px; font-stretch: 86%; line-height: 1.25; }
  p { font: 15px/1.3 var(--voice); }
  p b { font-weight: 400; display: block; color: var(--slate); }
  .acts { display: flex; gap: 10px; font-size: 12.5px; justify-content: flex-end; }
  @media (max-width: 1080px) {
    li { grid-template-columns: minmax(0, 1fr); }
    .acts { justify-content: flex-start; }
  }
`;
