import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { account } from "../api/account";
import { data, http } from "../api/client";
import { keepPrices } from "../api/files";
import { FileWord } from "../kit/FileWord";
import { Making } from "../kit/Making";
import { Heading, Word } from "../kit/parts";
import { Lines, NOTHING_SAID, useAnswers, Values } from "../kit/TableAnswers";
import { TickBox } from "../kit/Tick";
import { words } from "../words";
import { Differences } from "./Differences";
import { useLineKinds } from "./useLineKinds";
import { usePriceWork } from "./usePriceWork";

const w = words.catalogues;

/** A file into a price list: its values matched, every line looked at first, what it would change, then all or nothing. */
export function BringIn({ id, edition, settle }: { id: number; edition: number; settle: () => void }) {
  const [file, setFile] = useState<File | null>(null);
  const [replace, setReplace] = useState(false);
  const kept = useQuery({
    queryKey: ["price-file", id, file?.name, file?.size, file?.lastModified],
    enabled: file !== null,
    retry: false,
    gcTime: 0,
    staleTime: Infinity,
    queryFn: () => keepPrices(id, file as File),
  });
  const key = file ? kept.data?.file : undefined;
  const say = useAnswers();
  const said = useQuery({
    queryKey: ["price-answers", id, say.answers],
    enabled: say.answers !== NOTHING_SAID,
    placeholderData: keepPreviousData,
    queryFn: () =>
      data(
        http.POST("/api/catalogues/{catalogue_id}/answers", {
          params: { path: { catalogue_id: id } },
          body: say.answers,
        }),
      ),
  });
  const answers = say.answers === NOTHING_SAID ? null : (said.data?.file ?? null);
  const [taking, setTaking] = useState(false);
  const about = key ? { file: key, seen: edition, replace, answers } : null;
  const look = usePriceWork(id, about && { type: "look", ...about });
  const take = usePriceWork(id, about && taking ? { type: "take", ...about, account: account() } : null);
  const work = taking ? take : look;
  const forget = () => {
    setFile(null);
    setTaking(false);
    say.forget();
  };
  const [done, setDone] = useState(false);
  const choose = (chosen: File) => {
    setFile(chosen);
    setTaking(false);
    say.forget();
    setDone(false);
  };
  const taken = take.found?.imported?.taken ?? false;
  useEffect(() => {
    if (!taken) return;
    setFile(null);
    setTaking(false);
    setDone(true);
    settle();
  }, [taken, settle]);
  const columns = useQuery({
    queryKey: ["price-columns"],
    queryFn: () => data(http.GET("/api/price-columns")),
    staleTime: Infinity,
  });
  const kinds = useLineKinds();
  const found = look.found?.imported ?? undefined;
  const heads = Object.fromEntries(columns.data?.map((column) => [column.key, column.head]) ?? []);
  const refused = kept.error?.message ?? (key && !work.going && !work.found?.imported ? work.told || w.notRead : "");
  return (
    <Place>
      <Heading>
        <h2>{w.views.import}</h2>
        <span>{w.importLead}</span>
      </Heading>
      <p className="tools">
        <FileWord label={w.choose} accept=".csv,.xlsx,.json,.txt,.tsv" onFile={choose} />
        {file && <span>{file.name}</span>}
        <TickBox
          value={replace}
          set={(value) => {
            setReplace(value);
            setTaking(false);
          }}
        >
          {w.replace}
        </TickBox>
      </p>
      {done && !file && (
        <p role="status" className="done">
          {w.took}
        </p>
      )}
      {file && (kept.isFetching || work.going) && (
        <div className="tools">
          <Making
            told={(taking ? w.taking : w.reading)(work.found?.underway?.text)}
            going
            stop={key ? work.stop : forget}
          />
        </div>
      )}
      {file && refused && (
        <p className="tools">
          <span role="alert">{refused}</span>
          {key && <Word onPress={work.again}>{w.readAgain}</Word>}
          <Word onPress={forget}>{w.forget}</Word>
        </p>
      )}
      {found && !taking && (
        <p className="tools">
          {found.wrong > 0 ? (
            <span role="alert">{w.wrong(found.wrong)}</span>
          ) : found.differences.length ? (
            <Word onPress={() => setTaking(true)}>{w.take(found.differences.length)}</Word>
          ) : (
            <span>{w.same}</span>
          )}
          <Word onPress={forget}>{w.forget}</Word>
        </p>
      )}
      {found && !taking && (
        <>
          <Values values={found.values ?? []} say={say} />
          <Lines lines={found.lines} heads={heads} say={say} only />
        </>
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
                  <i>{column.kinds.length < kinds.length && ` ${column.kinds.join(", ")}`}</i>
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
  [role="alert"] { font: 15px/1.35 var(--voice); color: var(--clay); }
  .done { font: 15px var(--voice); color: var(--moss); }
  h3 { font-size: 13.5px; font-weight: 600; margin: 16px 0 4px; }
  dl { columns: 2; column-gap: 28px; border-top: 1px solid var(--rule); }
  dl div { display: grid; grid-template-columns: 130px 1fr; gap: 10px; padding: 3px 0; border-bottom: 1px solid var(--rule); break-inside: avoid; font-size: 13px; }
  dd i { font-style: normal; color: var(--faint); }
  @media (max-width: 860px) { dl { columns: 1; } }
`;
