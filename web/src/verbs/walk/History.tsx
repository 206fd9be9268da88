import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { account, NAMELESS, nameAccount } from "../../api/account";
import { data, http } from "../../api/client";
import { useWork } from "../../api/work";
import { Text } from "../../kit/fields";
import { moment } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.history;

/** Who changed what, and when. */
export function History() {
  const { id, outcome, undo, redo, say } = useWork();
  const cache = useQueryClient();
  const [name, setName] = useState(account() === NAMELESS ? "" : account());
  const lines = useQuery({
    queryKey: ["history", id, outcome.revision],
    queryFn: () => data(http.GET("/api/projects/{project_id}/history", { params: { path: { project_id: id } } })),
  });
  return (
    <Page aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>{w.lead}</span>
        {outcome.undo && <Word onPress={undo}>{words.undoWhat(outcome.undo)}</Word>}
        {outcome.redo && <Word onPress={redo}>{words.redoWhat(outcome.redo)}</Word>}
      </Heading>
      <p className="name">
        {w.called}{" "}
        <Text
          label={w.called}
          value={name}
          most={60}
          placeholder={NAMELESS}
          set={async (next) => {
            const kept = nameAccount(next);
            if (kept) {
              setName(account() === NAMELESS ? "" : account());
              cache.invalidateQueries({ queryKey: ["state", id] });
            } else say(w.oddName);
            return kept;
          }}
        />
      </p>
      {lines.data?.length === 0 && <p>{w.none}</p>}
      <ol>
        {lines.data?.map((line) => (
          <li key={line.revision} data-state={line.state}>
            <b>{line.revision}</b>
            <time dateTime={line.at}>{moment(line.at)}</time>
            <span>{line.account}</span>
            <span className="told">
              {line.act !== "edit" && <em>{w.acts[line.act as keyof typeof w.acts]} </em>}
              {line.told}
              {line.state === "undone" && <i> {w.undone}</i>}
            </span>
          </li>
        ))}
      </ol>
    </Page>
  );
}

const Page = styled.section`
  padding: 8px 16px 20px;
  p { font: 15px var(--voice); color: var(--faint); }
  .name { font: inherit; padding: 2px 0 6px; }
  .name input { background: none; border: 0; border-bottom: 1px dotted var(--faint); width: 20ch; }
  ol { border-top: 1px solid var(--ink); margin-top: 4px; }
  li { display: grid; grid-template-columns: 46px 150px 110px 1fr; gap: 12px; padding: 5px 0; border-bottom: 1px solid var(--rule); align-items: baseline; }
  b { text-align: right; font-weight: 400; color: var(--faint); }
  time, li > span:not(.told) { color: var(--faint); }
  .told { font: 15px var(--voice); }
  .told em { font-style: normal; font-weight: 600; }
  .told i { color: var(--ochre); font-style: normal; }
  [data-state="undone"] .told { text-decoration: line-through; text-decoration-color: var(--faint); }
  @media (max-width: 700px) { li { grid-template-columns: 36px 1fr; } .told { grid-column: 2; } li > span:not(.told) { display: none; } }
`;
