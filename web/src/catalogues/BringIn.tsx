import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { data, http } from "../api/client";
import { bringPrices } from "../api/files";
import { FileWord } from "../kit/FileWord";
import { Heading, Tick, Word } from "../kit/parts";
import { words } from "../words";
import { Differences } from "./Differences";

const w = words.catalogues;
const LINES_SHOWN = 200;

/** A file into a price list: every line looked at first, what it would change, then all or nothing. */
export function BringIn({ id, edition, settle }: { id: number; edition: number; settle: () => void }) {
  const [file, setFile] = useState<File | null>(null);
  const [replace, setReplace] = useState(false);
  const look = useQuery({
    queryKey: ["prices-in", id, edition, file?.name, file?.size, file?.lastModified, replace],
    enabled: file !== null,
    retry: false,
    gcTime: 0,
    queryFn: () => bringPrices(id, file as File, edition, replace, false),
  });
  const take = useMutation({
    mutationFn: () => bringPrices(id, file as File, edition, replace, true),
    onSuccess: () => {
      setFile(null);
      settle();
    },
  });
  const columns = useQuery({
    queryKey: ["price-columns"],
    queryFn: () => data(http.GET("/api/price-columns")),
    staleTime: Infinity,
  });
  const found = file ? look.data : undefined;
  const wrong = found?.lines.filter((line) => line.wrong.length > 0) ?? [];
  const error = look.error ?? take.error;
  return (
    <Place>
      <Heading>
        <h2>{w.views.import}</h2>
        <span>{w.importLead}</span>
      </Heading>
      <p className="tools">
        <FileWord label={w.choose} accept=".csv,.xlsx,.json,.txt,.tsv" onFile={setFile} />
        {file && <span>{file.name}</span>}
        {/* biome-ignore lint/a11y/noLabelWithoutControl: the tick inside is one */}
        <label>
          <Tick
            value={replace}
            set={async (value) => {
              setReplace(value);
              return true;
            }}
          />{" "}
          {w.replace}
        </label>
      </p>
      {take.isSuccess && !file && (
        <p role="status" className="done">
          {w.took}
        </p>
      )}
      {file && error && <p role="alert">{error.message}</p>}
      {found && (
        <p className="tools">
          {found.wrong > 0 ? (
            <span role="alert">{w.wrong(found.wrong)}</span>
          ) : found.differences.length ? (
            <Word isDisabled={take.isPending} onPress={() => take.mutate()}>
              {w.take(found.differences.length)}
            </Word>
          ) : (
            <span>{w.same}</span>
          )}
          <Word onPress={() => setFile(null)}>{w.forget}</Word>
        </p>
      )}
      {wrong.length > 0 && (
        <ol>
          {wrong.slice(0, LINES_SHOWN).map((line) => (
            <li key={line.number}>
              <b>{w.line(line.number)}</b>
              <span>{line.told}</span>
              <p>{line.wrong.join("; ")}.</p>
            </li>
          ))}
        </ol>
      )}
      {found && found.wrong === 0 && <Differences lines={found.differences} />}
      {!found && (
        <>
          <h3>{w.columnsOf}</h3>
          <dl>
            {columns.data?.map((column) => (
              <div key={column.key}>
                <dt>{column.head}</dt>
                <dd>
                  {column.choices.join(", ") || (column.key === "ports" ? w.portsHint : "")}
                  <i>
                    {column.kinds.length < 5 && ` ${column.kinds.map((kind) => w.kind[kind as "router"]).join(", ")}`}
                  </i>
                </dd>
              </div>
            ))}
          </dl>
        </>
      )}
    </Place>
  );
}

const Place = styled.section`
  padding: 10px 16px 24px; max-width: 900px; min-width: 0;
  .tools { display: flex; gap: 18px; align-items: baseline; padding: 7px 0; flex-wrap: wrap; border-top: 1px solid var(--rule); }
  .tools label { margin-left: auto; display: flex; gap: 7px; align-items: baseline; }
  ol li { display: grid; grid-template-columns: 70px minmax(0, 1fr) minmax(0, 2fr); gap: 12px; padding: 4px 0; border-bottom: 1px solid var(--rule); align-items: baseline; }
  ol b { font-weight: 400; color: var(--faint); }
  ol p, [role="alert"] { font: 15px/1.35 var(--voice); color: var(--clay); }
  .done { font: 15px var(--voice); color: var(--moss); }
  h3 { font-size: 13.5px; font-weight: 600; margin: 16px 0 4px; }
  dl { columns: 2; column-gap: 28px; border-top: 1px solid var(--rule); }
  dl div { display: grid; grid-template-columns: 130px 1fr; gap: 10px; padding: 3px 0; border-bottom: 1px solid var(--rule); break-inside: avoid; font-size: 13px; }
  dd i { font-style: normal; color: var(--faint); }
  @media (max-width: 860px) { dl { columns: 1; } ol li { grid-template-columns: 60px 1fr; } ol p { grid-column: 2; } }
`;
