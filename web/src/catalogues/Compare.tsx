import { useQueries, useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { data, http, type Model } from "../api/client";
import { money } from "../kit/figures";
import { Word } from "../kit/parts";
import { words } from "../words";
import { pack, read } from "./figures";

const w = words.catalogues;
const LEFT_OUT = ["key", "name", "price_minor", "pack", "yearly_minor", "yearly_for"];

/** Lines side by side; where they say different things, it is said in ink. */
export function Compare(props: { models: readonly Model[]; currency: string; id: number; clear: () => void }) {
  const { models, currency, id } = props;
  const columns = useQuery({
    queryKey: ["price-columns"],
    queryFn: () => data(http.GET("/api/price-columns")),
    staleTime: Infinity,
  });
  const lines = useQueries({
    queries: models.map((model) => ({
      queryKey: ["catalogue-line", id, model.key],
      queryFn: () =>
        data(
          http.GET("/api/catalogues/{catalogue_id}/lines/{key}", {
            params: { path: { catalogue_id: id, key: model.key } },
          }),
        ),
    })),
  });
  if (models.length < 2) return <Empty>{w.compareNone}</Empty>;
  const cells = lines.map((line) => line.data ?? {});
  const told = (columns.data ?? []).filter(
    (column) => !LEFT_OUT.includes(column.key) && cells.some((line) => line[column.key]),
  );
  const each = (model: Model) => Math.ceil(model.price_minor / pack(model));
  const cheapest = Math.min(...models.map(each));
  return (
    <Scroll>
      <Table>
        <thead>
          <tr>
            <th>
              <Word onPress={props.clear}>{w.compareClear}</Word>
            </th>
            {models.map((model) => (
              <th key={model.key} scope="col">
                {model.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr className="price" data-differs>
            <th scope="row">{w.columns.price}</th>
            {models.map((model) => (
              <td key={model.key}>
                {money(each(model), currency)}
                {pack(model) > 1 && <i> {w.inPacks(money(model.price_minor, currency), pack(model))}</i>}
                {each(model) > cheapest && <i> + {money(each(model) - cheapest, currency)}</i>}
              </td>
            ))}
          </tr>
          {told.map((column) => (
            <tr
              key={column.key}
              data-differs={new Set(cells.map((line) => line[column.key] ?? "")).size > 1 || undefined}
            >
              <th scope="row">{column.head.replace(" Mbit/s", "")}</th>
              {models.map((model, place) => {
                const cell = cells[place]?.[column.key];
                return <td key={model.key}>{cell ? read(model, column.key, cell) : "–"}</td>;
              })}
            </tr>
          ))}
        </tbody>
      </Table>
    </Scroll>
  );
}

const Empty = styled.p`
  font: 16px/1.4 var(--voice); padding: 26px 16px;
`;

const Scroll = styled.div`
  overflow-x: auto; min-width: 0;
`;

const Table = styled.table`
  margin: 10px 16px 24px;
  th, td { text-align: left; padding: 5px 24px 5px 0; vertical-align: baseline; font-weight: 400; max-width: 260px; }
  tr { border-bottom: 1px solid var(--rule); color: var(--faint); }
  thead tr { border-bottom-color: var(--ink); color: var(--ink); }
  thead th { font: 600 15px/1.25 var(--voice); }
  tbody th { color: var(--faint); white-space: nowrap; }
  [data-differs] td { color: var(--ink); font-weight: 600; }
  .price td { font: 600 17px var(--voice); }
  .price i { font: 400 13px var(--data); font-style: normal; color: var(--faint); }
`;
