import { useState } from "react";
import type { Schemas } from "../../api/client";
import { addTo, type Row, type Values } from "../../api/edits";
import { readPaid } from "../../api/files";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { AddByName } from "../../kit/AddByName";
import { Chooser } from "../../kit/Choice";
import { FileWord } from "../../kit/FileWord";
import { Amount } from "../../kit/fields";
import { figure, minorPerUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { TickBox } from "../../kit/Tick";
import { words } from "../../words";
import { Ledger, Page, Sums } from "./ledger";
import { useMoney, usePrice } from "./usePrice";

const w = words.paid;
type ActualLine = Schemas["ActualLine"];

/** What was paid for every line of the plan, and why the sums differ. */
export function PaidView() {
  const { id, edit, say } = useWork();
  const money = useMoney();
  const costs = usePrice();
  const [busy, setBusy] = useState(false);
  const [shown, show] = useState<"all" | "begun">("all");
  if (!costs) return null;
  const { actual } = costs;
  const begun = actual.lines.filter((one) => one.paid_minor || one.quantity || one.ordered || one.settled);
  const lines = shown === "begun" ? begun : actual.lines;
  const bring = async (file: Blob) => {
    setBusy(true);
    try {
      await edit(...(await readPaid(id, file)));
    } catch (error) {
      say(error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Page>
      <div>
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            <span>{w.lead}</span>
          </Heading>
          <p className="acts">
            <FileWord label={w.bring} busy={busy && w.reading} accept=".csv,.xlsx,.txt,.tsv" onFile={bring} />
            <a href={`/api/projects/${id}/price/paid.csv`}>{w.csv}</a>
            <Chooser
              label={w.title}
              value={shown}
              options={[
                ["all", w.all],
                ["begun", w.begun],
              ]}
              set={show}
            />
          </p>
          {!begun.length && <p>{w.none}</p>}
          <Ledger aria-label={w.title}>
            <colgroup>
              <col />
              <col style={{ width: 88 }} />
              <col className="wide" style={{ width: 70 }} />
              <col className="wide" style={{ width: 76 }} />
              <col style={{ width: 72 }} />
              <col style={{ width: 88 }} />
              <col style={{ width: 86 }} />
              <col style={{ width: 44 }} />
            </colgroup>
            <thead>
              <tr>
                <th>{w.head.part}</th>
                <th className="r">{w.head.planned}</th>
                <th className="r wide">{w.head.ordered}</th>
                <th className="r wide">{w.head.delivered}</th>
                <th className="r">{w.head.quantity}</th>
                <th className="r">{w.head.paid}</th>
                <th className="r">{w.head.off}</th>
                <th>{w.finalShort}</th>
              </tr>
            </thead>
            <tbody>
              {lines.map((one) => (
                <PaidLine key={one.key} one={one} />
              ))}
            </tbody>
          </Ledger>
          <AddUnplanned />
        </section>
      </div>
      <div>
        <Sums>
          <dt>{w.planned}</dt>
          <dd>{money(actual.planned_minor)}</dd>
          <dt>{w.quantity}</dt>
          <dd>{money(actual.by_quantity_minor)}</dd>
          <dt>{w.price}</dt>
          <dd>{money(actual.by_price_minor)}</dd>
          <dt>{w.change}</dt>
          <dd>{money(actual.by_change_minor)}</dd>
          <dt data-whole>{w.sum}</dt>
          <dd data-whole>{money(actual.paid_minor)}</dd>
          <dt>{w.still}</dt>
          <dd>{money(actual.still_minor)}</dd>
        </Sums>
        <Findings verb="price" />
      </div>
    </Page>
  );
}

function PaidLine({ one }: { one: ActualLine }) {
  const { outcome, put } = useWork();
  const money = useMoney();
  const perUnit = minorPerUnit(outcome.project.settings.currency ?? "EUR");
  const rows = (outcome.project.paid ?? []).filter((row) => row.part === one.key);
  const row = rows.at(-1);
  const others = rows.slice(0, -1);
  const sum = (of: (row: Row<"paid">) => number | null | undefined) =>
    others.reduce((all, other) => all + (of(other) ?? 0), 0);
  const say = (said: Values<"paid">) => put("paid", { part: one.key }, row ? said : { name: one.name, ...said });
  const off = one.by_quantity_minor + one.by_price_minor + one.by_change_minor;
  const why = [
    one.by_quantity_minor && w.quantity,
    one.by_price_minor && w.price,
    one.by_change_minor && w.change,
  ].filter(Boolean);
  return (
    <tr>
      <td title={one.name}>
        {one.name} <small>{`${figure(one.planned)} ${one.unit}`.trim()}</small>
      </td>
      <td className="r" data-unknown={one.planned_minor == null || undefined}>
        {money(one.planned_minor, words.price.unknown)}
      </td>
      {(["ordered", "delivered", "quantity"] as const).map((key) => (
        <td key={key} className={key === "quantity" ? "r" : "r wide"}>
          <Amount
            label={w.countOf[key](one.name)}
            value={one[key] || null}
            set={(value) => say({ [key]: value === null ? null : Math.max(0, value - sum((other) => other[key])) })}
          />
        </td>
      ))}
      <td className="r">
        <Amount
          label={w.paidOf(one.name)}
          value={one.paid_minor ? one.paid_minor / perUnit : null}
          set={(value) =>
            say({
              paid_minor:
                value === null ? null : Math.max(0, Math.round(value * perUnit) - sum((other) => other.paid_minor)),
            })
          }
        />
      </td>
      <td className="r" data-unknown={off > 0 || undefined}>
        {off ? money(off) : ""}
        {why.length > 0 && <small> {why.join(", ")}</small>}
      </td>
      <td>
        <TickBox label={w.final(one.name)} value={row?.final ?? false} set={(final) => say({ final })} />
      </td>
    </tr>
  );
}

function AddUnplanned() {
  const { edit } = useWork();
  return <AddByName label={w.add} add={(name) => edit(addTo("paid", { part: `other/${name}`, name }))} />;
}
