import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Button } from "react-aria-components";
import { Link, NavLink, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { type CatalogueLine, data, http } from "../api/client";
import { Wordmark } from "../frame/Wordmark";
import { Field } from "../kit/parts";
import { NARROW } from "../kit/theme";
import { words } from "../words";
import { Catalogue } from "./Catalogue";
import { useCatalogues } from "./useCatalogue";

const w = words.catalogues;

/** The price lists: which there are, and the one that is open. */
export function CataloguePage() {
  const { id, view } = useParams();
  const list = useCatalogues();
  const open = list.data?.find((line) => line.id === Number(id)) ?? list.data?.[0];
  return (
    <Page>
      <header>
        <Link to="/projects" aria-label={`${words.name}: ${words.projects}`} className="mark">
          <Wordmark />
        </Link>
        <h1>{w.title}</h1>
        <p>{w.lead}</p>
        <Link to="/projects">{w.projects}</Link>
      </header>
      <nav aria-label={w.list}>
        <ul>
          {list.data?.map((line) => (
            <Listed key={line.id} line={line} open={line.id === open?.id} />
          ))}
        </ul>
        <Begin />
        {list.error && <p role="alert">{list.error.message}</p>}
      </nav>
      <main>{open && <Catalogue key={open.id} line={open} view={view ?? "lines"} />}</main>
    </Page>
  );
}

function Listed({ line, open }: { line: CatalogueLine; open: boolean }) {
  return (
    <li data-open={open || undefined}>
      <NavLink to={`/catalogues/${line.id}`} aria-current={open ? "page" : undefined}>
        {line.name}
      </NavLink>
      <p>
        {w.lines(line.lines)}, {line.currency}, {w.priced} {line.priced_on}
      </p>
      <p>
        {w.edition(line.edition)}, {line.shipped ? w.shipped : w.usedBy(line.projects)}
      </p>
    </li>
  );
}

/** A new list, empty. */
function Begin() {
  const navigate = useNavigate();
  const list = useCatalogues();
  const [name, setName] = useState("");
  const [currency, setCurrency] = useState("EUR");
  const create = useMutation({
    mutationFn: () => data(http.POST("/api/catalogues", { body: { name: name.trim(), currency } })),
    onSuccess: async (made) => {
      setName("");
      await list.refetch();
      navigate(`/catalogues/${made.id}`);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (name.trim()) create.mutate();
  };
  return (
    <form onSubmit={submit}>
      <Field
        aria-label={w.newName}
        placeholder={w.newPlaceholder}
        value={name}
        maxLength={190}
        onChange={(event) => setName(event.target.value)}
      />
      <Field
        aria-label={w.newCurrency}
        value={currency}
        maxLength={3}
        className="currency"
        onChange={(event) => setCurrency(event.target.value.toUpperCase())}
      />
      <Button type="submit" isDisabled={!name.trim() || !/^[A-Z]{3}$/.test(currency)}>
        {w.create}
      </Button>
      {create.error && <p role="alert">{create.error.message}</p>}
    </form>
  );
}

const Page = styled.div`
  min-height: 100%; display: grid; grid-template: "head head" auto "list main" 1fr / 236px minmax(0, 1fr);
  > header {
    grid-area: head; display: grid; grid-template-columns: 196px auto minmax(0, 1fr) auto; gap: 20px; align-items: baseline;
    padding: 15px 16px 9px 20px; border-bottom: 1px solid var(--ink);
  }
  .mark { color: inherit; text-decoration: none; }
  h1 { font-size: 13.5px; font-weight: 650; white-space: nowrap; }
  header p { color: var(--faint); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  > nav { grid-area: list; border-right: 1px solid var(--rule); padding: 10px 0 20px; }
  > nav li { padding: 8px 14px 9px 17px; border-bottom: 1px solid var(--rule); border-left: 3px solid transparent; }
  > nav li[data-open] { background: var(--sheet); border-left-color: var(--clay); }
  > nav a { font: 600 15px/1.25 var(--voice); color: var(--ink); text-decoration: none; }
  > nav a:hover { text-decoration: underline; }
  > nav p { color: var(--faint); font-size: 12.5px; font-stretch: 86%; }
  > nav form { display: grid; grid-template-columns: minmax(0, 1fr) 52px; gap: 8px 10px; padding: 16px 14px 0 20px; }
  .currency { text-align: center; }
  > nav form button { grid-column: 1 / -1; justify-self: start; background: var(--ink); color: var(--paper); border: 0; padding: 5px 12px; cursor: pointer; font-weight: 600; }
  > nav form button[data-disabled] { background: none; color: var(--faint); outline: 1px solid var(--rule); cursor: default; }
  > nav form [role="alert"], > nav > [role="alert"] { grid-column: 1 / -1; color: var(--clay); font: 14px/1.35 var(--voice); }
  > main { grid-area: main; min-width: 0; }
  ${NARROW} {
    grid-template: "head" auto "list" auto "main" 1fr / minmax(0, 1fr);
    > header { grid-template-columns: auto 1fr auto; } header p { display: none; }
    > nav { border-right: 0; border-bottom: 1px solid var(--ink); }
  }
`;
