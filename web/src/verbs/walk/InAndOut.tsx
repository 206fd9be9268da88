import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { data, http } from "../../api/client";
import { previewList } from "../../api/files";
import { useWork } from "../../api/work";
import { Chooser, type Option } from "../../kit/Choice";
import { FileWord } from "../../kit/FileWord";
import { Heading, Word } from "../../kit/parts";
import { Lines, useAnswers, Values } from "../../kit/TableAnswers";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";

const w = words.list;

/** The list of drops as a file: out as CSV or XLSX, in with columns and values matched and every line looked at first. */
export function InAndOut() {
  const { id, send, say: tell } = useWork();
  const [file, setFile] = useState<File | null>(null);
  const [columns, setColumns] = useState<readonly string[] | null>(null);
  const [added, setAdded] = useState(0);
  const say = useAnswers();
  const known = useQuery({
    queryKey: ["list-columns"],
    queryFn: () => data(http.GET("/api/list-columns")),
    staleTime: Infinity,
  });
  const matched = columns?.join(",");
  const preview = useQuery({
    queryKey: ["preview", id, file?.name, file?.size, file?.lastModified, matched, say.answers],
    enabled: file !== null,
    retry: false,
    placeholderData: file ? keepPreviousData : undefined,
    queryFn: () => previewList(id, file as File, matched, say.answers),
  });
  const found = file ? preview.data : undefined;
  const heads = Object.fromEntries(known.data?.map((line) => [line.key, line.head]) ?? []);
  const match = (place: number, key: string) => {
    const now = columns ?? found?.columns.map((column) => column.key) ?? [];
    setColumns(now.map((old, other) => (other === place ? key : old === key ? "" : old)));
  };
  const take = async () => {
    const count = found?.drops ?? 0;
    if (file && (await send({ act: "import", file, columns: matched, answers: say.answers }))) {
      setFile(null);
      setColumns(null);
      say.forget();
      setAdded(count);
      tell("");
    }
  };
  return (
    <Page>
      <section aria-label={w.out}>
        <Heading>
          <h2>{w.out}</h2>
          <span>{w.outLead}</span>
        </Heading>
        <p className="links">
          <a href={`/api/projects/${id}/drops.csv`} download>
            {w.csv}
          </a>
          <a href={`/api/projects/${id}/drops.xlsx`} download>
            {w.xlsx}
          </a>
          <a href={`/api/projects/${id}/export`} download>
            {w.project}
          </a>
        </p>
        <SmallParts />
      </section>
      <section aria-label={w.in}>
        <Heading>
          <h2>{w.in}</h2>
          <span>{w.inLead}</span>
        </Heading>
        <p className="links">
          <FileWord
            label={w.choose}
            accept=".csv,.xlsx,.txt,.tsv"
            onFile={(chosen) => {
              setFile(chosen);
              setColumns(null);
              say.forget();
              setAdded(0);
            }}
          />
          {file && <span>{file.name}</span>}
        </p>
        {added > 0 && (
          <p role="status" className="done">
            {w.added(added)} <Link to={`/projects/${id}/walk/tally`}>{w.see}</Link>
          </p>
        )}
        {preview.error && <p role="alert">{preview.error.message}</p>}
        {(found || preview.error) && columns && <Word onPress={() => setColumns(null)}>{w.matchAgain}</Word>}
        {found && (
          <>
            <h3>{w.columns}</h3>
            <ul className="columns">
              {found.columns.map((column, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: heads may repeat, their place is what they are
                <li key={place}>
                  <span>{column.head || w.noHead(place + 1)}</span>
                  <Chooser
                    label={w.columnIs(column.head)}
                    value={column.key}
                    options={[
                      ["", w.leftOut],
                      ...(known.data ?? []).map((line): Option<string> => [line.key, line.head]),
                    ]}
                    set={(key) => match(place, key)}
                  />
                </li>
              ))}
            </ul>
            <Values values={found.values} say={say} />
            <h3>{w.lines(found.lines.length)}</h3>
            <p className="sum">
              {w.sum(found.drops, found.new_rooms.length)}
              {found.new_rooms.length > 0 && ` (${found.new_rooms.slice(0, 8).join(", ")})`}. {found.note}
            </p>
            <p className="links">
              <Word isDisabled={found.wrong > 0 || found.drops === 0} onPress={take}>
                {found.wrong ? w.cannot(found.wrong) : w.add(found.drops)}
              </Word>
              <Word onPress={() => setFile(null)}>{w.forget}</Word>
            </p>
            <Lines lines={found.lines} heads={heads} say={say} />
          </>
        )}
      </section>
    </Page>
  );
}

/** Boxes, plates, anchors, gaskets and cords that follow from the list. */
function SmallParts() {
  const { id, outcome } = useWork();
  const parts = useQuery({
    queryKey: ["small-parts", id, outcome.revision],
    queryFn: () => data(http.GET("/api/projects/{project_id}/small-parts", { params: { path: { project_id: id } } })),
  });
  if (!parts.data?.length) return null;
  return (
    <>
      <h3>{w.smallParts}</h3>
      <ul className="parts">
        {parts.data.map((part) => (
          <li key={part.name}>
            <b>{part.count}</b>
            <span>{part.name}</span>
          </li>
        ))}
      </ul>
    </>
  );
}

const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1.6fr); gap: 0;
  > section { padding: 8px 16px 24px; min-width: 0; }
  > section + section { border-left: 1px solid var(--rule); }
  .links { display: flex; gap: 18px; padding: 6px 0; border-top: 1px solid var(--ink); flex-wrap: wrap; align-items: baseline; }
  h3 { font-size: 13.5px; font-weight: 600; margin: 14px 0 4px; }
  .columns { columns: 2; column-gap: 24px; border-top: 1px solid var(--rule); }
  .columns li { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; padding: 3px 0; border-bottom: 1px solid var(--rule); break-inside: avoid; }
  .parts li { display: grid; grid-template-columns: 42px 1fr; gap: 12px; padding: 3px 0; border-bottom: 1px solid var(--rule); }
  .parts b { text-align: right; font-weight: 400; color: var(--faint); }
  .sum, .done, [role="alert"] { font: 15px/1.4 var(--voice); }
  .done { color: var(--moss); }
  [role="alert"] { color: var(--clay); }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); > section + section { border-left: 0; border-top: 1px solid var(--rule); } .columns { columns: 1; } }
`;
