import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { NavLink, useNavigate } from "react-router";
import styled from "styled-components";
import { type CatalogueLine, data, http } from "../api/client";
import { Choice, optionsOf } from "../kit/Choice";
import { Day, Text } from "../kit/fields";
import { Views, Word } from "../kit/parts";
import { words } from "../words";
import { BringIn } from "./BringIn";
import { Compare } from "./Compare";
import { Editions } from "./Editions";
import { Lines } from "./Lines";
import { PricesOut } from "./PricesOut";
import { useCatalogue, useCatalogues } from "./useCatalogue";

const w = words.catalogues;

type Tax = keyof typeof w.taxes;

/** One price list: its head, and its lines, their comparison, files into it, and its editions. */
export function Catalogue({ line, view }: { line: CatalogueLine; view: string }) {
  const { query, change, settle } = useCatalogue(line.id);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const found = query.data;
  if (!found) return query.error ? <p role="alert">{query.error.message}</p> : null;
  const { catalogue } = found;
  const compared = catalogue.models.filter((model) => ticked.has(model.key));
  const tick = (key: string) =>
    setTicked((now) => new Set(now.has(key) ? [...now].filter((other) => other !== key) : [...now, key]));
  const head = (changes: { name?: string; priced_on?: string; tax?: Tax }) =>
    change.mutateAsync([{ type: "change_head", ...changes }]).then(
      () => true,
      () => false,
    );
  return (
    <Views>
      <div>
        <Head>
          <h2>
            <Text label={w.name} value={catalogue.name} set={(name) => head({ name })} />
          </h2>
          <span className="day">
            {w.day}
            <Day
              label={w.day}
              value={catalogue.priced_on}
              set={(day) => (day ? head({ priced_on: day }) : Promise.resolve(false))}
            />
          </span>
          <span>
            {catalogue.currency},{" "}
            <Choice
              label={w.tax}
              value={catalogue.tax ?? ""}
              options={optionsOf(w.taxes)}
              set={(tax) => head({ tax: tax as Tax })}
            />
          </span>
          <span>{w.edition(found.edition)}</span>
          <span className="acts">
            <PricesOut id={line.id} edition={found.edition} />
            <CopyAndRemove line={line} />
          </span>
        </Head>
        {change.error && (
          <Wrong role="alert">
            {change.error.message} <Word onPress={() => change.reset()}>{words.dismiss}</Word>
          </Wrong>
        )}
        <Names>
          {(["lines", "compare", "import", "editions"] as const).map((name) => (
            <NavLink key={name} to={`/catalogues/${line.id}/${name}`} className={view === name ? "active" : ""}>
              {w.views[name]}
              {name === "compare" && compared.length > 0 && ` (${compared.length})`}
            </NavLink>
          ))}
        </Names>
      </div>
      {view === "compare" ? (
        <Compare models={compared} currency={catalogue.currency} id={line.id} clear={() => setTicked(new Set())} />
      ) : view === "import" ? (
        <BringIn id={line.id} edition={found.edition} settle={settle} />
      ) : view === "editions" ? (
        <Editions id={line.id} />
      ) : (
        <Lines found={found} ticked={ticked} tick={tick} change={change} />
      )}
    </Views>
  );
}

function CopyAndRemove({ line }: { line: CatalogueLine }) {
  const navigate = useNavigate();
  const list = useCatalogues();
  const [sure, setSure] = useState(false);
  const copy = useMutation({
    mutationFn: () =>
      data(
        http.POST("/api/catalogues", {
          body: { name: w.copyOf(line.name), currency: line.currency, from_id: line.id },
        }),
      ),
    onSuccess: async (made) => {
      await list.refetch();
      navigate(`/catalogues/${made.id}`);
    },
  });
  const remove = useMutation({
    mutationFn: () =>
      data(http.DELETE("/api/catalogues/{catalogue_id}", { params: { path: { catalogue_id: line.id } } })),
    onSuccess: async () => {
      await list.refetch();
      navigate("/catalogues");
    },
  });
  const error = copy.error ?? remove.error;
  return (
    <>
      <Word isDisabled={copy.isPending} onPress={() => copy.mutate()}>
        {w.copy}
      </Word>
      {!line.shipped &&
        line.projects === 0 &&
        (sure ? (
          <>
            <Word onPress={() => remove.mutate()}>{w.removeSure}</Word>
            <Word onPress={() => setSure(false)}>{w.keep}</Word>
          </>
        ) : (
          <Word onPress={() => setSure(true)}>{w.remove}</Word>
        ))}
      {error && <em role="alert">{error.message}</em>}
    </>
  );
}

const Head = styled.div`
  display: flex; align-items: baseline; gap: 6px 18px; padding: 12px 16px 2px; flex-wrap: wrap;
  h2 { flex: 0 1 300px; } h2 input { font: 600 20px var(--voice); background: none; border: 0; border-bottom: 1px dotted transparent; width: 100%; padding: 0; }
  h2 input:hover, h2 input:focus { border-bottom-color: var(--faint); }
  > span { color: var(--faint); white-space: nowrap; }
  .day { display: inline-flex; gap: 5px; align-items: baseline; }
  .acts { margin-left: auto; display: flex; gap: 14px; align-items: baseline; }
  .acts em { color: var(--clay); font: 14px var(--voice); white-space: normal; }
`;

const Names = styled.div`
  display: flex; gap: 18px; padding: 7px 16px 0; border-bottom: 1px solid var(--ink);
  a { color: var(--slate); text-decoration: none; border-bottom: 2px solid transparent; padding-bottom: 4px; }
  a:hover { border-bottom-color: var(--faint); }
  a.active { color: var(--ink); font-weight: 650; border-bottom-color: var(--clay); }
`;

const Wrong = styled.p`
  color: var(--clay); font: 15px/1.4 var(--voice); padding: 4px 16px;
`;
