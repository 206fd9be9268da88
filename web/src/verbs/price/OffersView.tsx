import { type ReactNode, useState } from "react";
import styled from "styled-components";
import type { OfferTold } from "../../api/client";
import { addTo, changeIn, type Edit } from "../../api/edits";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { SheetWord } from "../../instruments/SheetWord";
import { AddByName } from "../../kit/AddByName";
import { Choice, Chooser } from "../../kit/Choice";
import { Amount, Paragraph, Some, Text } from "../../kit/fields";
import { exact, figure } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { words } from "../../words";
import { Ledger, Page, Sums } from "./ledger";
import { useMoney, usePrice } from "./usePrice";

const w = words.offers;
const AIMS = ["least_price", "fewest_boxes", "most_room", "least_power"] as const;

/** Offers to the client: as they would be sent now, as they were sent, and what changed since. */
export function OffersView() {
  const costs = usePrice();
  const { outcome } = useWork();
  const [picked, pick] = useState<number | null>(null);
  if (!costs) return null;
  const told = costs.offers.find((one) => one.offer.id === picked) ?? costs.offers.at(-1);
  return (
    <Page>
      <div>
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
          </Heading>
          {costs.offers.length > 1 && told && (
            <Chooser
              label={w.number}
              value={String(told.offer.id)}
              options={costs.offers.map(
                (one) => [String(one.offer.id), `${one.offer.number}, ${w.state[one.offer.state ?? "draft"]}`] as const,
              )}
              set={(next) => pick(Number(next))}
            />
          )}
          {!told && <p>{w.none}</p>}
          <AddOffer />
        </section>
        {told && <Document told={told} />}
      </div>
      <div>
        {told && <Terms told={told} key={told.offer.id} />}
        <Margins settings={outcome.project.settings} />
        <Findings verb="price" />
      </div>
    </Page>
  );
}

function AddOffer() {
  const { edit } = useWork();
  const payments = w.steps.map((name, place) => ({ name, percent: place < 2 ? 33.3 : 33.4 }));
  return <AddByName label={w.add} add={(number) => edit(addTo("offers", { number, payments }))} />;
}

function Document({ told }: { told: OfferTold }) {
  const { id, edit } = useWork();
  const money = useMoney();
  const shown = told.sent ?? told.document;
  const groups = [...new Set(shown.positions.map((one) => one.group))];
  const today = new Date().toISOString().slice(0, 10);
  const { variation, offer } = told;
  return (
    <>
      <section aria-label={w.positions}>
        <Heading>
          <h2>{`${offer.number}, ${w.state[offer.state ?? "draft"]}`}</h2>
          <span>{[offer.day, shown.client].filter(Boolean).join(", ")}</span>
        </Heading>
        <p className="acts">
          <SheetWord sheet="offer" of={offer.id}>
            {w.pdf}
          </SheetWord>
          <a href={`/api/projects/${id}/price/offer.csv?of=${offer.id}`}>{w.csv}</a>
          {told.edit && (
            <Word onPress={() => edit(told.edit as unknown as Edit, changeIn("offers", offer.id, { day: today }))}>
              {w.send}
            </Word>
          )}
          {told.sent && (
            <Choice
              label={w.state.sent}
              value={(offer.state ?? "sent") as "sent" | "accepted" | "declined"}
              options={[
                ["sent", w.state.sent],
                ["accepted", w.state.accepted],
                ["declined", w.state.declined],
              ]}
              set={(state) => edit(changeIn("offers", offer.id, { state }))}
            />
          )}
        </p>
        {shown.open.length > 0 && <p>{w.open(shown.open.length)}</p>}
        {variation && (
          <Varied aria-label={w.changed}>
            <h3>{variation.lines.length ? w.changed : w.same}</h3>
            {variation.lines.length > 0 && (
              <>
                <ul>
                  {variation.lines.map((one) => (
                    <li key={one.key}>
                      <b>{one.text}</b>
                      <span>
                        {one.what === "changed" && one.quantity !== one.was_quantity
                          ? `${figure(one.was_quantity ?? 0)} → ${figure(one.quantity ?? 0)} ${one.unit}`
                          : w.what[one.what]}
                      </span>
                      <i>{money(one.more_minor, words.price.unknown)}</i>
                    </li>
                  ))}
                  <li>
                    <b>{w.total}</b>
                    <span>{w.more}</span>
                    <i>{money(variation.more_minor)}</i>
                  </li>
                </ul>
                <SheetWord sheet="variation" of={offer.id}>
                  {w.variationPdf}
                </SheetWord>
              </>
            )}
          </Varied>
        )}
        <Ledger aria-label={w.positions}>
          <colgroup>
            <col />
            <col style={{ width: 110 }} />
            <col style={{ width: 120 }} />
          </colgroup>
          {groups.map((group) => (
            <tbody key={group}>
              <tr>
                <th colSpan={3} scope="rowgroup">
                  {group}
                </th>
              </tr>
              {shown.positions
                .filter((one) => one.group === group)
                .map((one) => (
                  <tr key={one.key}>
                    <td title={one.text}>{one.text}</td>
                    <td className="r">
                      {figure(one.quantity)} <small>{one.unit}</small>
                    </td>
                    <td className="r" data-unknown={one.minor == null || undefined}>
                      {money(one.minor, words.price.unknown)}
                    </td>
                  </tr>
                ))}
            </tbody>
          ))}
        </Ledger>
      </section>
      <Sums>
        <dt>{w.sum}</dt>
        <dd>{money(shown.sum_minor)}</dd>
        {shown.discount_minor > 0 && (
          <>
            <dt>{w.discountOf(exact(shown.discount_percent))}</dt>
            <dd>{money(-shown.discount_minor)}</dd>
          </>
        )}
        <dt>{w.net}</dt>
        <dd>{money(shown.net_minor)}</dd>
        <dt>{w.taxOf(exact(shown.tax_percent))}</dt>
        <dd>{money(shown.tax_minor)}</dd>
        <dt data-whole>{w.total}</dt>
        <dd data-whole>{money(shown.total_minor)}</dd>
      </Sums>
    </>
  );
}

function Terms({ told }: { told: OfferTold }) {
  const { outcome, edit } = useWork();
  const money = useMoney();
  const { offer } = told;
  const { settings } = outcome.project;
  const set = (changes: Partial<typeof offer>) => edit(changeIn("offers", offer.id, changes));
  const payments = offer.payments ?? [];
  const pay = (place: number, said: Partial<(typeof payments)[number]>) =>
    set({ payments: payments.map((one, at) => (at === place ? { ...one, ...said } : one)) });
  const share = (place: number, percent: number) => {
    // another step takes what is left of the whole
    const other = place === payments.length - 1 ? place - 1 : payments.length - 1;
    const rest = payments.reduce(
      (sum, one, at) => sum - (at === place || at === other ? 0 : one.percent),
      100 - percent,
    );
    const percents = payments.map((one, at) => (at === place ? percent : at === other ? rest : one.percent));
    return set({
      payments: payments.map((one, at) => ({ ...one, percent: Math.round((percents[at] ?? 0) * 1e4) / 1e4 })),
    });
  };
  const addStep = () => {
    const half = (payments.at(-1)?.percent ?? 100) / 2;
    return set({
      payments: [
        ...payments.slice(0, -1),
        ...[payments.at(-1)?.name ?? w.payName, w.payName].map((name) => ({ name, percent: half })),
      ],
    });
  };
  const shown = told.sent ?? told.document;
  return (
    <Sheet aria-label={offer.number}>
      <Line label={w.number}>
        <Text label={w.number} value={offer.number} set={(number) => set({ number })} />
      </Line>
      <Line label={w.client}>
        <Text
          label={w.client}
          value={settings.client ?? ""}
          set={(client) => edit({ type: "change_settings", changes: { client } })}
        />
      </Line>
      <Line label={w.valid}>
        <Amount
          label={w.valid}
          value={offer.valid_days ?? 30}
          least={1}
          most={730}
          set={(days) => set({ valid_days: days ?? 30 })}
        />
        <i>{w.days}</i>
      </Line>
      <Line label={w.discount}>
        <Amount
          label={w.discount}
          value={offer.discount_percent ?? 0}
          most={100}
          set={(value) => set({ discount_percent: value ?? 0 })}
        />
        <i>%</i>
      </Line>
      <Line label={w.answers}>
        <Some
          label={w.answers}
          none="–"
          value={offer.answers ?? []}
          options={AIMS.map((aim) => ({ id: aim, name: words.aims[aim] }))}
          set={(answers) => set({ answers: answers.slice(0, 3) })}
        />
      </Line>
      {payments.map((one, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps have an order and no name of their own
        <Step key={place} label={place ? "" : w.payments}>
          <Text label={`${w.payName} ${place + 1}`} value={one.name} set={(name) => pay(place, { name })} />
          <Amount
            label={`${w.share} ${place + 1}`}
            value={one.percent}
            most={100}
            set={(percent) => share(place, percent ?? 0)}
          />
          <i>%, {money(shown.payments[place]?.minor)}</i>
        </Step>
      ))}
      {payments.length < 12 && (
        <Line label="">
          <Word onPress={addStep}>{w.addPayment}</Word>
        </Line>
      )}
      <Paragraph label={w.notIncluded} value={offer.not_included ?? ""} set={(not_included) => set({ not_included })} />
      <Paragraph label={w.assumptions} value={offer.assumptions ?? ""} set={(assumptions) => set({ assumptions })} />
      <p className="acts">
        <Word onPress={() => edit({ type: "remove_entry", list: "offers", id: offer.id })}>
          {w.remove(offer.number)}
        </Word>
      </p>
    </Sheet>
  );
}

function Margins({ settings }: { settings: { margin_parts_percent?: number; margin_work_percent?: number } }) {
  const { edit } = useWork();
  const field = (key: "margin_parts_percent" | "margin_work_percent", usual: number, label: string) => (
    <Line label={label}>
      <Amount
        label={label}
        value={settings[key] ?? usual}
        most={300}
        set={(value) => edit({ type: "change_settings", changes: { [key]: value ?? 0 } })}
      />
      <i>%</i>
    </Line>
  );
  return (
    <Sheet aria-label={w.marginParts}>
      {field("margin_parts_percent", 15, w.marginParts)}
      {field("margin_work_percent", 0, w.marginWork)}
      <p>{w.marginWhy}</p>
    </Sheet>
  );
}

/** A step of payment: its name on a line of its own. */
function Step({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Wrapped>
      <Line label={label}>{children}</Line>
    </Wrapped>
  );
}

const Wrapped = styled.div`
  .line > span:last-child { flex-wrap: wrap; }
  .line > span:last-child > :first-child { flex: 1 1 100%; }
`;

const Varied = styled.section`
  border-left: 2px solid var(--ochre); padding: 2px 0 6px 12px; margin: 6px 0;
  h3 { margin: 0; font: 600 15px var(--voice); }
  li { display: grid; grid-template-columns: minmax(0, 1fr) auto 96px; gap: 12px; border-bottom: 1px solid var(--rule); padding: 2px 0; }
  li b { font-weight: 550; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  li span { color: var(--faint); }
  li i { font-style: normal; text-align: right; }
`;
