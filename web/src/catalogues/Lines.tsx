import { useState } from "react";
import styled from "styled-components";
import type { CatalogueFor, Model } from "../api/client";
import { exact, money } from "../kit/figures";
import { Field, Word } from "../kit/parts";
import { TickBox } from "../kit/Tick";
import { NARROW } from "../kit/theme";
import { words } from "../words";
import { pack, ports, powered, RANK, said, slots } from "./figures";
import { type Cells, LineSheet } from "./LineSheet";
import type { useCatalogue } from "./useCatalogue";
import { useLineKinds } from "./useLineKinds";

const w = words.catalogues;
const COLUMNS = [
  "name",
  "ports",
  "powered",
  "watts",
  "slots",
  "fan",
  "managed",
  "units",
  "draw",
  "yearly",
  "price",
] as const;
const ROWS = 400;
const LEFT: readonly string[] = ["name", "ports", "powered", "slots", "fan", "managed"];

/** Every line of a price list: filtered, sorted, ticked for comparison, opened for change. */
export function Lines(props: {
  found: CatalogueFor;
  ticked: ReadonlySet<string>;
  tick: (key: string) => void;
  change: ReturnType<typeof useCatalogue>["change"];
}) {
  const { found, ticked, tick } = props;
  const { models, currency } = found.catalogue;
  const kinds = useLineKinds();
  const [kind, setKind] = useState("all");
  const [filter, setFilter] = useState("");
  const [sort, setSort] = useState<{ by: string; down: boolean } | null>(null);
  /** The key of the line that is open; empty: a new one, from this draft. */
  const [open, setOpen] = useState<string | null>(null);
  const [draft, setDraft] = useState<Cells | null>(null);
  const begin = (cells: Cells | null) => {
    setDraft(cells);
    setOpen("");
  };
  const [rows, setRows] = useState(ROWS);
  const wanted = filter.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = models.filter(
    (model) => (kind === "all" || model.kind === kind) && wanted.every((word) => said(model).includes(word)),
  );
  const rank = sort && RANK[sort.by];
  if (rank) {
    const order = (a: Model, b: Model) => (rank(a) < rank(b) ? -1 : rank(a) > rank(b) ? 1 : 0);
    shown.sort((a, b) => (sort.down ? -order(a, b) : order(a, b)));
  }
  const choose = (by: string) =>
    setSort((now) => (now?.by === by ? (now.down ? null : { by, down: true }) : { by, down: false }));
  return (
    <Place data-open={open !== null || undefined}>
      <section aria-label={w.views.lines}>
        <p className="tools">
          {[{ key: "all", many: w.all }, ...kinds].map(({ key, many }) => (
            <Word key={key} aria-pressed={kind === key} onPress={() => setKind(key)}>
              {many}
            </Word>
          ))}
          <Field
            aria-label={w.filter}
            placeholder={w.filterPlaceholder}
            value={filter}
            onChange={(event) => setFilter(event.target.value)}
          />
          <span>{w.shown(shown.length, models.length)}</span>
          <Word onPress={() => begin(null)}>{w.add}</Word>
        </p>
        {shown.length === 0 ? (
          <p className="empty">{models.length ? w.noneShown : w.none}</p>
        ) : (
          <div className="scroll">
            <table>
              <thead>
                <tr>
                  <th scope="col">
                    <span className="unseen">{w.columns.compare}</span>
                  </th>
                  {COLUMNS.map((column) => (
                    <th
                      key={column}
                      scope="col"
                      data-left={LEFT.includes(column) || undefined}
                      aria-sort={sort?.by === column ? (sort.down ? "descending" : "ascending") : "none"}
                    >
                      <button type="button" onClick={() => choose(column)}>
                        {w.columns[column]}
                        {sort?.by === column && (sort.down ? " ↓" : " ↑")}
                      </button>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {shown.slice(0, rows).map((model) => (
                  <Row
                    key={model.key}
                    model={model}
                    currency={currency}
                    isOpen={open === model.key}
                    isTicked={ticked.has(model.key)}
                    tick={() => tick(model.key)}
                    open={() => setOpen(model.key)}
                  />
                ))}
              </tbody>
            </table>
            {shown.length > rows && <Word onPress={() => setRows(rows + ROWS)}>{w.moreRows(shown.length - rows)}</Word>}
          </div>
        )}
      </section>
      {open !== null && (
        <LineSheet
          key={`${open}-${found.edition}`}
          id={found.id}
          model={models.find((model) => model.key === open) ?? null}
          change={props.change}
          close={() => setOpen(null)}
          draft={draft}
          asNew={begin}
        />
      )}
    </Place>
  );
}

function Row(props: {
  model: Model;
  currency: string;
  isOpen: boolean;
  isTicked: boolean;
  tick: () => void;
  open: () => void;
}) {
  const { model, currency } = props;
  const box = "form" in model;
  return (
    <tr data-open={props.isOpen || undefined} data-out={!model.in_stock || undefined}>
      <td>
        <TickBox label={`${w.columns.compare}: ${model.name}`} value={props.isTicked} set={props.tick} />
      </td>
      <th scope="row">
        <button type="button" onClick={props.open}>
          {model.name}
        </button>
        {!model.in_stock && <i> {w.outOfStock}</i>}
      </th>
      <td data-left>{ports(model)}</td>
      <td data-left>{powered(model)}</td>
      <td>{"poe_budget_w" in model && model.poe_budget_w ? exact(model.poe_budget_w) : ""}</td>
      <td data-left>{slots(model)}</td>
      <td data-left>{box ? (model.fanless ? w.fanless : w.fan) : ""}</td>
      <td data-left>{box ? (model.managed ? w.managed : w.plain) : ""}</td>
      <td>{box ? (model.units ?? 1) : ""}</td>
      <td>{"own_draw_w" in model ? exact(model.own_draw_w) : ""}</td>
      <td>{model.yearly_minor ? money(model.yearly_minor, currency) : ""}</td>
      <td>
        {money(model.price_minor, currency)}
        {pack(model) > 1 && <i> {w.forSo(pack(model))}</i>}
      </td>
    </tr>
  );
}

const Place = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr);
  &[data-open] { grid-template-columns: minmax(0, 1fr) 330px; }
  &[data-open] :is(th, td):nth-child(n + 6):nth-child(-n + 11) { display: none; }
  > section:first-child { padding: 4px 16px 24px; min-width: 0; }
  .tools { display: flex; gap: 6px 14px; align-items: baseline; padding: 6px 0; flex-wrap: wrap; }
  .tools > span { color: var(--faint); margin-left: auto; }
  .tools > input { width: 190px; margin-left: 10px; }
  .tools [aria-pressed="true"] { color: var(--ink); font-weight: 650; text-decoration: none; }
  .empty { font: 16px/1.4 var(--voice); padding: 26px 0; }
  .scroll { overflow-x: auto; }
  .unseen { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
  table { width: 100%; }
  thead th { font-weight: 400; color: var(--faint); text-align: right; border-bottom: 1px solid var(--ink); padding: 4px 0 4px 12px; white-space: nowrap; }
  [data-left] { text-align: left !important; }
  thead th:nth-child(-n + 2) { padding-left: 0; }
  thead button { background: none; border: 0; padding: 0; cursor: pointer; color: inherit; }
  thead [aria-sort="ascending"] button, thead [aria-sort="descending"] button { color: var(--ink); font-weight: 600; }
  tbody tr { border-bottom: 1px solid var(--rule); }
  tbody tr[data-open] { background: var(--sheet); }
  tbody td { text-align: right; padding: 4px 0 4px 12px; white-space: nowrap; }
  tbody td:first-child { padding: 4px 6px 4px 0; width: 18px; }
  tbody th { font-weight: 400; text-align: left; padding: 4px 0; min-width: 210px; }
  tbody th button { background: none; border: 0; padding: 0; cursor: pointer; text-align: left; font-stretch: 88%; }
  tbody th button:hover { text-decoration: underline; }
  tbody td i { display: block; color: var(--faint); font-style: normal; font-size: 12.5px; }
  tbody th i { color: var(--ochre); font-style: normal; font-size: 12.5px; white-space: nowrap; }
  tbody tr[data-out] td { color: var(--faint); }
  ${NARROW} {
    :is(th, td):nth-child(n + 4):nth-child(-n + 11) { display: none; }
    tbody th { min-width: 0; }
    &[data-open] { grid-template-columns: minmax(0, 1fr); } &[data-open] > section:first-child { display: none; } }
`;
