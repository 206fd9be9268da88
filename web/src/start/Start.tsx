import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Button } from "react-aria-components";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { data, http, Told } from "../api/client";
import { importProject } from "../api/files";
import { newId, waiting } from "../api/outbox";
import { Wordmark } from "../frame/Wordmark";
import { FileWord } from "../kit/FileWord";
import { Field, Word } from "../kit/parts";
import { words } from "../words";
import { forgetPlace } from "./lastPlace";

const w = words.start;
const TRIES = 3;

const once = (changeId: string) => ({ header: { "Idempotency-Key": changeId } });
/** What got no answer is sent again under the same id, and so is done once. */
const mayBeAskedAgain = (count: number, error: Error) => count < TRIES && !(error instanceof Told && !error.passes);

/** The list of projects, a new one, or one from a file. */
export function Start() {
  const navigate = useNavigate();
  const cache = useQueryClient();
  const list = useQuery({ queryKey: ["projects"], queryFn: () => data(http.GET("/api/projects")), staleTime: 0 });
  const [name, setName] = useState("");
  const [removing, setRemoving] = useState<number | null>(null);
  const open = ({ id }: { id: number }) => navigate(`/projects/${id}/walk`);
  const waits = useQuery({ queryKey: ["waiting"], queryFn: () => waiting.counts(), staleTime: 0 });
  const create = useMutation({
    mutationFn: (changeId: string) =>
      data(http.POST("/api/projects", { body: { name, site: "" }, params: once(changeId) })),
    retry: mayBeAskedAgain,
    onSuccess: open,
  });
  const bring = useMutation({
    mutationFn: ({ chosen, changeId }: { chosen: File; changeId: string }) => importProject(chosen, changeId),
    retry: mayBeAskedAgain,
    onSuccess: open,
  });
  const remove = useMutation({
    mutationFn: (id: number) =>
      data(http.DELETE("/api/projects/{project_id}", { params: { path: { project_id: id } } })),
    onSuccess: () => {
      forgetPlace();
      cache.invalidateQueries({ queryKey: ["projects"] });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (name.trim()) create.mutate(newId());
  };
  const error = create.error ?? bring.error ?? remove.error ?? list.error;
  return (
    <Page>
      <header>
        <Wordmark />
        <p>{w.lead}</p>
      </header>
      <main>
        <h1>{w.title}</h1>
        {list.data?.length === 0 && <p>{w.none}</p>}
        <ul>
          {list.data?.map((project) => (
            <li key={project.id}>
              <Link to={`/projects/${project.id}/walk`}>{project.name}</Link>
              <span className="site">
                {project.site} {waits.data?.has(project.id) && <em>{w.waiting(waits.data.get(project.id) ?? 0)}</em>}
              </span>
              <span className="count">{w.rooms(project.rooms)}</span>
              <span className="count">{w.drops(project.drops)}</span>
              <span className="acts">
                {removing === project.id ? (
                  <>
                    <Word onPress={() => remove.mutate(project.id)}>{w.removeSure}</Word>{" "}
                    <Word onPress={() => setRemoving(null)}>{w.keep}</Word>
                  </>
                ) : (
                  <Word aria-label={`${w.remove} ${project.name}`} onPress={() => setRemoving(project.id)}>
                    {w.remove}
                  </Word>
                )}
              </span>
            </li>
          ))}
        </ul>
        <form onSubmit={submit}>
          <Field
            aria-label={w.nameLabel}
            placeholder={w.namePlaceholder}
            value={name}
            maxLength={200}
            autoFocus={list.data?.length === 0}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="submit" isDisabled={!name.trim()}>
            {w.create}
          </Button>
          <FileWord
            label={w.import}
            accept=".json,application/json"
            onFile={(chosen) => bring.mutate({ chosen, changeId: newId() })}
          />
          <Link to="/catalogues">{words.catalogues.title}</Link>
        </form>
        {error && <p role="alert">{error.message}</p>}
      </main>
      <div className="earth" aria-hidden="true" />
    </Page>
  );
}

const Page = styled.div`
  min-height: 100%; display: grid; grid-template-rows: auto 1fr 110px; padding-top: 15px;
  header, main { padding: 0 max(20px, calc(50vw - 420px)); }
  header { display: flex; gap: 24px; align-items: baseline; flex-wrap: wrap; }
  header p { font-family: var(--voice); font-size: 15.5px; color: var(--faint); }
  h1 { font: 600 26px var(--voice); margin: 42px 0 14px; }
  ul { border-top: 1px solid var(--ink); }
  li {
    display: grid; grid-template-columns: minmax(150px, 1.1fr) 2fr 70px 70px auto; gap: 14px; align-items: baseline;
    padding: 10px 0; border-bottom: 1px solid var(--rule);
  }
  li a { font: 600 17px var(--voice); color: var(--ink); text-decoration: none; }
  li a:hover { text-decoration: underline; }
  .site, .count { color: var(--faint); }
  .site em { color: var(--clay); font-style: normal; }
  .count { text-align: right; }
  .acts { min-width: 60px; text-align: right; }
  form { display: flex; gap: 16px; align-items: baseline; margin-top: 26px; flex-wrap: wrap; }
  form input:not([type="file"]) { width: 260px; font-size: 15px; }
  form button[type="submit"] {
    background: var(--ink); color: var(--paper); border: 0; padding: 6px 14px; cursor: pointer; font-weight: 600;
  }
  form button[data-disabled] { background: none; color: var(--faint); outline: 1px solid var(--rule); cursor: default; }
  [role="alert"] { color: var(--clay); font-family: var(--voice); font-size: 15px; margin-top: 14px; }
  .earth { background: var(--earth); border-top: 2px solid var(--ink); }
  @media (max-width: 700px) {
    li { grid-template-columns: 1fr auto auto; }
    .site { grid-row: 2; grid-column: 1 / -1; }
    .acts { grid-row: 2; grid-column: 3; }
  }
`;
