import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useEffect, useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { data, http, type Model, type PriceColumn } from "../api/client";
import { Chooser } from "../kit/Choice";
import { Word } from "../kit/parts";
import { Line, Sheet } from "../kit/sheet";
import { words } from "../words";
import type { useCatalogue } from "./useCatalogue";

const w = words.catalogues;
const HINTS: Record<string, string> = { ports: w.portsHint, slots: "2 × 10000", supplies_w: w.listHint };
const NEW = { kind: "switch", in_stock: "yes" };

export type Cells = Record<string, string>;

/** A line of a price list cell by cell; it is kept as a whole, for half a line is none. */
export function LineSheet(props: {
  id: number;
  model: Model | null;
  change: ReturnType<typeof useCatalogue>["change"];
  /** What a new line begins with. */
  draft: Cells | null;
  close: () => void;
  asNew: (cells: Cells) => void;
}) {
  const { id, model, change } = props;
  const columns = useQuery({
    queryKey: ["price-columns"],
    queryFn: () => data(http.GET("/api/price-columns")),
    staleTime: Infinity,
  });
  const kept = useQuery({
    queryKey: ["catalogue-line", id, model?.key],
    enabled: model !== null,
    staleTime: 0,
    gcTime: 0,
    queryFn: () =>
      data(
        http.GET("/api/catalogues/{catalogue_id}/lines/{key}", {
          params: { path: { catalogue_id: id, key: model?.key ?? "" } },
        }),
      ),
  });
  const [cells, setCells] = useState<Cells | null>(model ? null : (props.draft ?? NEW));
  useEffect(() => {
    if (kept.data) setCells((now) => now ?? kept.data);
  }, [kept.data]);
  useEffect(() => {
    const leave = (event: KeyboardEvent) => event.key === "Escape" && props.close();
    window.addEventListener("keydown", leave);
    return () => window.removeEventListener("keydown", leave);
  }, [props.close]);
  if (!cells || !columns.data) return null;
  const kind = cells.kind ?? "switch";
  const mine = columns.data.filter((column) => column.kinds.includes(kind));
  const keep = async (event?: FormEvent) => {
    event?.preventDefault();
    const said = Object.fromEntries(mine.map((column) => [column.key, cells[column.key] ?? ""]));
    const next = await change.mutateAsync([{ type: "put_line", cells: said }]).catch(() => null);
    if (next) props.close();
  };
  const takeOut = async () => {
    if (model && (await change.mutateAsync([{ type: "remove_model", key: model.key }]).catch(() => null)))
      props.close();
  };
  return (
    <Side aria-label={w.sheet(model?.name ?? w.newLine)}>
      <form onSubmit={keep}>
        <h2>{model?.name ?? w.newLine}</h2>
        <Sheet as="div">
          {mine.map((column) => (
            <Line key={column.key} label={column.head}>
              <Cell
                column={column}
                value={cells[column.key] ?? ""}
                fixed={column.key === "key" && model !== null}
                set={(value) => setCells({ ...cells, [column.key]: value })}
              />
            </Line>
          ))}
        </Sheet>
        {change.error && <p role="alert">{change.error.message}</p>}
        <p className="acts">
          <Button type="submit" isDisabled={change.isPending || !cells.name?.trim()}>
            {change.isPending ? w.saving : w.save}
          </Button>
          <Word onPress={props.close}>{w.close}</Word>
          {model && (
            <Word onPress={() => props.asNew({ ...cells, key: "", name: w.copyOf(cells.name ?? "") })}>{w.asNew}</Word>
          )}
          {model && <Word onPress={takeOut}>{w.takeOut}</Word>}
        </p>
      </form>
    </Side>
  );
}

function Cell(props: { column: PriceColumn; value: string; fixed: boolean; set: (value: string) => void }) {
  const { column, value, set } = props;
  if (column.choices.length && column.key !== "lacks") {
    return (
      <Chooser
        label={column.head}
        value={value}
        options={[...(column.choices.includes(value) ? [] : [value]), ...column.choices].map((one) => [one, one])}
        set={set}
      />
    );
  }
  return (
    <input
      aria-label={column.head}
      value={value}
      readOnly={props.fixed}
      placeholder={HINTS[column.key] ?? "–"}
      onChange={(event) => set(event.target.value)}
    />
  );
}

const Side = styled.section`
  border-left: 1px solid var(--rule); background: var(--sheet); padding: 10px 16px 20px;
  position: sticky; top: 0; align-self: start; max-height: 100vh; overflow-y: auto;
  h2 { font: 600 16px/1.25 var(--voice); padding-bottom: 6px; border-bottom: 1px solid var(--ink); }
  .line { grid-template-columns: 118px minmax(0, 1fr); }
  input[readonly] { color: var(--faint); border-bottom-color: transparent; }
  .acts { display: flex; gap: 14px; align-items: baseline; flex-wrap: wrap; padding-top: 12px; }
  .acts > button[type="submit"] { background: var(--ink); color: var(--paper); border: 0; padding: 5px 12px; cursor: pointer; font-weight: 600; }
  .acts > button[data-disabled] { background: none; color: var(--faint); outline: 1px solid var(--rule); }
  [role="alert"] { color: var(--clay); font: 15px/1.4 var(--voice); padding-top: 8px; }
`;
