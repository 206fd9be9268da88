import { Fragment, useState } from "react";
import type { JobPrice, PricePart } from "../../api/client";
import type { Values } from "../../api/edits";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Searching } from "../../instruments/Searching";
import { SheetWord } from "../../instruments/SheetWord";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount, Text } from "../../kit/fields";
import { exact, figure, minorPerUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { BandLine, Ledger, Page, Sums } from "./ledger";
import { useKept, useMoney, usePrice } from "./usePrice";

const w = words.price;
type Group = keyof typeof w.group;

/** Every part once, in whole packs, with what it costs and who asks for it; what all of it comes to. */
export function PartsView() {
  const { id } = useWork();
  const costs = usePrice();
  const [chosen, choose] = useState<string | null>(null);
  if (!costs) return null;
  const part = costs.parts.find((one) => one.key === chosen);
  return (
    <Page>
      <div>
        <section aria-label={w.parts}>
          <Heading>
            <h2>{w.parts}</h2>
            <span>{w.withoutTax}</span>
          </Heading>
          <p className="acts">
            <a href={`/api/projects/${id}/price/parts.csv`}>{w.csv}</a>
            <a href={`/api/projects/${id}/price/price.xlsx`}>{w.xlsx}</a>
            <SheetWord sheet="workshop">{w.workshop}</SheetWord>
          </p>
          {!costs.parts.some((one) => one.group === "boxes") && <p>{w.noBoxes}</p>}
          <PartsTable costs={costs} chosen={chosen} choose={choose} />
        </section>
      </div>
      <div>
        {part ? <PartSheet part={part} costs={costs} /> : <p>{w.press}</p>}
        <JobSums costs={costs} />
        <CouldGo costs={costs} />
        <Findings verb="price" />
      </div>
    </Page>
  );
}

function PartsTable(props: { costs: JobPrice; chosen: string | null; choose: (key: string | null) => void }) {
  const money = useMoney();
  const { costs, chosen, choose } = props;
  const groups = Object.keys(w.group) as Group[];
  return (
    <Ledger aria-label={w.parts}>
      <colgroup>
        <col />
        <col style={{ width: 74 }} />
        <col className="wide" style={{ width: 56 }} />
        <col style={{ width: 92 }} />
        <col className="wide" style={{ width: 88 }} />
        <col style={{ width: 98 }} />
        <col className="wide" style={{ width: 92 }} />
      </colgroup>
      <thead>
        <tr>
          <th>{w.head.part}</th>
          <th className="r">{w.head.needed}</th>
          <th className="r wide">{w.head.spare}</th>
          <th className="r">{w.head.buy}</th>
          <th className="r wide">{w.head.each}</th>
          <th className="r">{w.head.price}</th>
          <th className="wide">{w.head.from}</th>
        </tr>
      </thead>
      {groups.map((group) => {
        const parts = costs.parts.filter((one) => one.group === group);
        if (!parts.length) return null;
        const sum = parts.reduce((all, one) => all + (one.total_minor ?? 0), 0);
        return (
          <tbody key={group}>
            <tr>
              <th colSpan={7} scope="rowgroup">
                {w.group[group]}
                <span>{money(sum)}</span>
              </th>
            </tr>
            {parts.map((one) => (
              <tr
                key={one.key}
                data-choose
                data-chosen={one.key === chosen || undefined}
                onClick={() => choose(one.key === chosen ? null : one.key)}
                onKeyDown={() => {}}
              >
                <td title={one.name}>
                  <button type="button" className="open" aria-pressed={one.key === chosen}>
                    {one.name}
                  </button>
                </td>
                <td className="r">
                  {exact(one.needed)} <small>{one.unit}</small>
                </td>
                <td className="r wide">{one.spare ? exact(one.spare) : ""}</td>
                <td className="r">
                  {one.holds === 1
                    ? exact(one.packs)
                    : w.packs(one.packs, `${exact(one.holds)}${one.unit && ` ${one.unit}`}`)}
                </td>
                <td className="r wide">{money(one.each_minor)}</td>
                <td className="r" data-unknown={one.total_minor == null || undefined}>
                  {money(one.total_minor, w.unknown)}
                </td>
                <td className="wide">
                  <small>{one.in_stock === false ? w.out : w.source[one.source]}</small>
                </td>
              </tr>
            ))}
          </tbody>
        );
      })}
    </Ledger>
  );
}

/** Of one part: who asks for it, where its price is from, what the project says of it. */
function PartSheet({ part, costs }: { part: PricePart; costs: JobPrice }) {
  const { outcome, put } = useWork();
  const { project } = outcome;
  const row = project.part_terms?.find((one) => one.part === part.key);
  const perUnit = minorPerUnit(costs.currency);
  const say = (said: Values<"part_terms">) => put("part_terms", { part: part.key }, said);
  const rooms = new Map(project.rooms.map((one) => [one.id, one.name]));
  const asking = [
    ...new Set(
      part.drop_ids.map((drop) => rooms.get(project.drops.find((one) => one.id === drop)?.room_id ?? -1) ?? ""),
    ),
  ].filter(Boolean);
  const closets = project.closets.filter((one) => part.closet_ids.includes(one.id)).map((one) => one.name);
  return (
    <Sheet aria-label={part.name}>
      <Heading>
        <h2>{part.name}</h2>
      </Heading>
      {part.price_list && (
        <Line label={w.listed}>
          <span>
            {[part.price_list, part.edition && w.edition(part.edition), part.priced_on].filter(Boolean).join(", ")}
            {part.lead_days != null && `, ${w.lead(part.lead_days)}`}
          </span>
        </Line>
      )}
      <Line label={w.ownPrice}>
        <Amount
          label={w.ownPrice}
          value={row?.price_minor == null ? null : row.price_minor / perUnit}
          set={(value) => say({ price_minor: value === null ? null : Math.round(value * perUnit) })}
        />
        <i>{costs.currency}</i>
      </Line>
      <Line label={w.there}>
        <Amount label={w.there} value={row?.there ?? 0} set={(value) => say({ there: value ?? 0 })} />
        <i>{part.unit}</i>
      </Line>
      <Line label={w.bought}>
        <Amount label={w.bought} value={row?.bought ?? 0} set={(value) => say({ bought: value ?? 0 })} />
        <i>{part.unit}</i>
      </Line>
      <Line label={w.ownSpare}>
        <Amount label={w.ownSpare} value={row?.spare ?? null} usual={part.spare} set={(spare) => say({ spare })} />
        <i>{part.spare_percent ? w.spareRule(exact(part.spare_percent)) : part.unit}</i>
      </Line>
      <Line label={w.by}>
        <Choice label={w.by} value={part.by} options={optionsOf(w.bringer)} set={(by) => say({ by })} />
      </Line>
      <Line label={w.note}>
        <Text label={w.note} value={row?.note ?? ""} set={(note) => say({ note })} />
      </Line>
      {(asking.length > 0 || closets.length > 0) && (
        <Line label={w.askedBy}>
          <span>{[...asking, ...closets].join(", ")}</span>
        </Line>
      )}
    </Sheet>
  );
}

/** What the job comes to, once and every year, against its budget. */
export function JobSums({ costs }: { costs: JobPrice }) {
  const { outcome, edit } = useWork();
  const money = useMoney();
  const { settings } = outcome.project;
  const { one_off_fit: fit, yearly_fit: yearly, one_off: sum } = costs;
  const set = (changes: Partial<typeof settings>) => edit({ type: "change_settings", changes });
  const between = w.between(money(sum.low_minor), money(sum.high_minor));
  return (
    <section aria-label={w.sums}>
      <Heading>
        <h2>{w.sums}</h2>
      </Heading>
      <Sums>
        <dt>{w.parts}</dt>
        <dd>{money(costs.parts_minor)}</dd>
        {(["client", "electrician"] as const)
          .filter((who) => costs.by_bringer[who])
          .map((who) => (
            <dd key={who} data-told="">
              {w.ofThem(w.bringer[who], money(costs.by_bringer[who]))}
            </dd>
          ))}
        <dt>{w.work}</dt>
        <dd>{money(costs.labour.cost.mean_minor)}</dd>
        {costs.own.given.tools_minor > 0 && (
          <>
            <dt>{w.tools}</dt>
            <dd>{money(costs.own.given.tools_minor)}</dd>
          </>
        )}
        <dt data-whole>{w.oneOff}</dt>
        <dd data-whole>{money(sum.mean_minor)}</dd>
        <dd data-told="">
          <BandLine band={sum} budget={fit?.budget_minor} told={between} />
          {between}
        </dd>
        {fit && (
          <>
            <dt>{w.budget}</dt>
            <dd>{money(fit.budget_minor)}</dd>
            <dd data-told={fit.over_minor > 0 ? "over" : "within"}>
              {fit.sentence}
              {fit.share != null && `; ${w.share(`${Math.round(100 * fit.share)} %`)}`}
            </dd>
          </>
        )}
        {costs.unpriced.length > 0 && <dd data-told="">{w.unpriced(costs.unpriced.length)}</dd>}
        {(["lines_minor", "licences_minor", "rent_minor", "energy_minor"] as const)
          .filter((key) => costs.yearly[key])
          .map((key) => (
            <Fragment key={key}>
              <dt title={key === "energy_minor" ? w.kwh(figure(costs.yearly.energy_kwh)) : undefined}>
                {w.yearlyOf[key]}
              </dt>
              <dd>{money(costs.yearly[key])}</dd>
            </Fragment>
          ))}
        <dt data-whole>{w.yearly}</dt>
        <dd data-whole>{money(costs.yearly.total_minor)}</dd>
        {yearly && <dd data-told={yearly.over_minor > 0 ? "over" : "within"}>{yearly.sentence}</dd>}
        <dt>{w.horizon(settings.horizon_years ?? 5)}</dt>
        <dd>{money(costs.horizon_minor)}</dd>
      </Sums>
      <Sheet aria-label={w.terms}>
        <Line label={w.tax}>
          <Amount
            label={w.tax}
            value={settings.tax_percent ?? 20}
            most={100}
            set={(value) => set({ tax_percent: value ?? 0 })}
          />
          <i>%</i>
        </Line>
        <Line label="">
          <Tick value={settings.budget_with_tax ?? false} set={(budget_with_tax) => set({ budget_with_tax })}>
            {w.budgetTax}
          </Tick>
        </Line>
      </Sheet>
    </section>
  );
}

/** The drops that could go or wait so that the job fits its budget. */
function CouldGo({ costs }: { costs: JobPrice }) {
  const { outcome, edit } = useWork();
  const money = useMoney();
  const { project } = outcome;
  const over = (costs.one_off_fit?.over_minor ?? 0) > 0;
  const asks = project.drops.some((one) => one.wanted !== "must");
  const { found, underway, isOld, stop, again } = useKept(over && asks);
  if (!over) return null;
  const kept = found?.reply?.kept;
  const gone = kept ? project.drops.filter((one) => kept.left_out.includes(one.id)) : [];
  const rooms = new Map(project.rooms.map((one) => [one.id, one.name]));
  const last = project.phases?.at(-1);
  const ids = kept?.left_out ?? [];
  return (
    <section aria-label={w.go}>
      <Heading>
        <h2>{w.go}</h2>
      </Heading>
      <p>{asks ? w.goLead : w.goNone}</p>
      {asks && <Searching underway={underway} told={() => w.searching} stop={stop} again={again} />}
      {asks && kept && (
        <>
          <p className="told">
            {kept.sentence} {w.goSums(kept.should_kept, kept.could_kept)}, {kept.proven ? w.goProven : w.goUnproven}.
          </p>
          <ul>
            {gone.map((one) => (
              <li key={one.id}>
                {one.label || one.kind.replace("_", " ")}, {rooms.get(one.room_id)}
              </li>
            ))}
          </ul>
          <p title={w.goHow}>{money(kept.true_minor)}</p>
          {ids.length > 0 && (
            <p className="acts">
              {last && (
                <Word
                  isDisabled={isOld}
                  onPress={() => edit({ type: "change_drops", ids, changes: { phase_id: last.id } })}
                >
                  {w.goWait(last.name)}
                </Word>
              )}
              <Word isDisabled={isOld} onPress={() => edit({ type: "remove_drops", ids })}>
                {w.goOut}
              </Word>
            </p>
          )}
        </>
      )}
    </section>
  );
}
