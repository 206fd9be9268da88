import { type FormEvent, useEffect, useState } from "react";
import styled from "styled-components";
import type { Closet, KindLine, Line, SettingsChanges } from "../../api/client";
import { addTo } from "../../api/edits";
import { useWork } from "../../api/work";
import { Chooser } from "../../kit/Choice";
import { figure, minorPerUnit, money } from "../../kit/figures";
import { small } from "../../kit/names";
import { Field, Labelled, Term, Word } from "../../kit/parts";
import { OneOf, Tick } from "../../kit/Tick";
import { words } from "../../words";
import { PriceLists } from "./PriceLists";

const w = words.terms;
const YEARS_AHEAD = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];

/** What the pick answers for, as a sentence whose words can be changed. */
export function Terms() {
  const { outcome, edit } = useWork();
  const { settings, closets, lines } = outcome.project;
  const perUnit = minorPerUnit(settings.currency);
  const set = (changes: SettingsChanges) => edit({ type: "change_settings", changes });
  const margin = settings.margin_percent ?? (settings.school === "class" ? 0 : 20);
  const horizon = settings.start_year + settings.horizon_years;
  return (
    <Sentence aria-label={w.label}>
      <Term text={`${w.live(outcome.balance.live)}, ${w.jacks[settings.jacks_live]}`} label={w.drops}>
        <OneOf
          name="jacks"
          value={settings.jacks_live}
          onChange={(jacks_live) => set({ jacks_live })}
          options={(["every", "in_use"] as const).map((key) => ({ key, text: w.jacks[key], why: w.jacksWhy[key] }))}
        />
      </Term>
      <Term text={w.reserve(outcome.balance.reserve, horizon)} label={w.growth}>
        <Growth />
      </Term>
      <Term text={`${w.schools[settings.school]} + ${figure(margin)} %`} label={w.school}>
        <OneOf
          name="school"
          value={settings.school}
          onChange={(school) => set({ school })}
          options={(["rated", "class", "measured"] as const).map((key) => ({
            key,
            text: w.schools[key],
            why: w.schoolWhy[key],
          }))}
        />
        <NumberLine label={w.margin} value={margin} most={200} set={(margin_percent) => set({ margin_percent })} />
      </Term>
      <Term
        text={`${w.networks[`${settings.separate_networks}`]}, ${w.tree[`${settings.chain_allowed}`]}`}
        label={w.networks.true}
      >
        <OneOf
          name="networks"
          value={`${settings.separate_networks}`}
          onChange={(key) => set({ separate_networks: key === "true" })}
          options={(["true", "false"] as const).map((key) => ({ key, text: w.networks[key] }))}
        />
        <small>{w.networksWhy}</small>
        <OneOf
          name="tree"
          value={`${settings.chain_allowed}`}
          onChange={(key) => set({ chain_allowed: key === "true" })}
          options={(["false", "true"] as const).map((key) => ({ key, text: w.tree[key] }))}
        />
        <small>{w.treeWhy}</small>
      </Term>
      {closets.map((closet) => (
        <Term
          key={closet.id}
          text={
            <>
              <b>{closet.name}</b>: {w.housing[closet.housing]}, {closet.units} U, {words.pick.sockets(closet.sockets)}
            </>
          }
          label={`${w.closet}: ${closet.name}`}
        >
          <ClosetTerms closet={closet} />
        </Term>
      ))}
      <Term
        text={lines.length ? lines.map((line) => `${line.name} ${line.down_mbit} M`).join(", ") : w.noLine}
        label={w.lines}
      >
        <Lines />
      </Term>
      <PriceLists />
      <Term
        text={settings.budget_minor ? `${w.budget} ${money(settings.budget_minor, settings.currency)}` : w.noBudget}
        label={w.budget}
      >
        <NumberLine
          label={`${w.budget}, ${settings.currency}`}
          value={settings.budget_minor ? settings.budget_minor / perUnit : null}
          most={10_000_000}
          set={(value) => set({ budget_minor: value ? Math.round(value * perUnit) : null })}
        />
        <NumberLine
          label={w.kwh(settings.currency)}
          value={settings.kwh_minor / perUnit}
          most={100}
          set={(value) => set({ kwh_minor: Math.round((value ?? 0) * 100 * perUnit) / 100 })}
        />
      </Term>
    </Sentence>
  );
}

function ClosetTerms({ closet }: { closet: Closet }) {
  const { edit } = useWork();
  const set = (changes: Partial<Closet>) => edit({ type: "change_entry", list: "closets", id: closet.id, changes });
  return (
    <>
      <OneOf
        name={`housing-${closet.id}`}
        value={closet.housing}
        onChange={(housing) => set({ housing })}
        options={(["shelf", "panel", "rack"] as const).map((key) => ({ key, text: w.housing[key] }))}
      />
      <Labelled as="div">
        {w.living}
        <Tick label={w.living} value={closet.living_space} set={(living_space) => set({ living_space })} />
      </Labelled>
      <NumberLine label={w.units} value={closet.units} most={60} set={(units) => set({ units: units ?? 1 })} />
      <NumberLine label={w.depth} value={closet.depth_mm} most={1500} set={(mm) => set({ depth_mm: mm ?? 50 })} />
      <NumberLine label={w.load} value={closet.load_kg} most={2000} set={(kg) => set({ load_kg: kg ?? 1 })} />
      <NumberLine
        label={w.sockets}
        value={closet.sockets}
        most={60}
        set={(sockets) => set({ sockets: sockets ?? 1 })}
      />
      <NumberLine
        label={w.outlets}
        value={closet.ups_outlets ?? null}
        most={60}
        set={(ups_outlets) => set({ ups_outlets })}
      />
    </>
  );
}

function Growth() {
  const { outcome, edit, kinds } = useWork();
  const { settings, additions, closets, growth_rates: rates } = outcome.project;
  const [kind, setKind] = useState<KindLine["key"]>("camera");
  const [count, setCount] = useState("1");
  const [year, setYear] = useState("2");
  const [where, setWhere] = useState(String(closets[0]?.id));
  const plan = (event: FormEvent) => {
    event.preventDefault();
    edit(
      addTo("additions", {
        kind,
        count: Number(count) || 1,
        years: Number(year) || 1,
        closet_id: Number(where) === closets[0]?.id ? null : Number(where),
      }),
    );
  };
  const used = kinds.filter((line) => outcome.project.drops.some((drop) => drop.kind === line.key));
  const nameOf = (key: string) => kinds.find((line) => line.key === key)?.plural ?? key;
  return (
    <>
      <NumberLine
        label={`${w.growth}, % a year`}
        value={settings.growth_percent}
        most={200}
        set={(percent) => edit({ type: "change_settings", changes: { growth_percent: percent ?? 0 } })}
      />
      <h2>{w.planned}</h2>
      {additions.map((addition) => (
        <Labelled as="div" key={addition.id}>
          <span>
            {addition.count} {small(nameOf(addition.kind))}, {settings.start_year + addition.years}
            {closets.length > 1 && `, ${(closets.find((one) => one.id === addition.closet_id) ?? closets[0])?.name}`}
          </span>
          <Word onPress={() => edit({ type: "remove_entry", list: "additions", id: addition.id })}>{w.remove}</Word>
        </Labelled>
      ))}
      <Row onSubmit={plan}>
        <Field
          aria-label={w.count}
          inputMode="numeric"
          value={count}
          onChange={(event) => setCount(event.target.value)}
        />
        <Chooser
          label={w.kind}
          value={kind}
          options={kinds.map((line) => [line.key, small(line.plural)])}
          set={setKind}
        />
        <Chooser
          label={w.year}
          value={year}
          options={YEARS_AHEAD.map((years) => [String(years), String(settings.start_year + years)])}
          set={setYear}
        />
        {closets.length > 1 && (
          <Chooser
            label={w.closet}
            value={where}
            options={closets.map((one) => [String(one.id), one.name])}
            set={setWhere}
          />
        )}
        <button type="submit">{w.addPlanned}</button>
      </Row>
      <h2>{w.perKind}</h2>
      {used.map((line) => (
        <NumberLine
          key={line.key}
          label={line.plural}
          value={rates.find((rate) => rate.kind === line.key)?.percent ?? null}
          most={200}
          set={(percent) => edit({ type: "set_growth", kind: line.key, percent })}
        />
      ))}
    </>
  );
}

function Lines() {
  const { outcome, edit } = useWork();
  const { lines } = outcome.project;
  const set = (line: Line, changes: Partial<Line>) =>
    edit({ type: "change_entry", list: "lines", id: line.id, changes });
  return (
    <>
      {lines.map((line) => (
        <fieldset key={line.id}>
          <legend>{line.name}</legend>
          <NumberLine
            label={w.down}
            value={line.down_mbit}
            most={100_000}
            set={(v) => set(line, { down_mbit: v ?? 1 })}
          />
          <NumberLine label={w.up} value={line.up_mbit} most={100_000} set={(v) => set(line, { up_mbit: v ?? 1 })} />
          <Labelled as="div">
            {w.standby}
            <Tick label={w.standby} value={line.standby} set={(standby) => set(line, { standby })} />
          </Labelled>
          <Word onPress={() => edit({ type: "remove_entry", list: "lines", id: line.id })}>{w.remove}</Word>
        </fieldset>
      ))}
      <Word
        onPress={() => edit(addTo("lines", { name: `${w.lineName} ${lines.length + 1}`, down_mbit: 250, up_mbit: 50 }))}
      >
        {w.addLine}
      </Word>
    </>
  );
}

/** A number that is kept on leaving the field or on Enter; what cannot be one is marked and not sent. */
function NumberLine(props: {
  label: string;
  value: number | null;
  most: number;
  set: (value: number | null) => Promise<boolean>;
}) {
  const shown = props.value === null ? "" : String(props.value);
  const [text, setText] = useState(shown);
  useEffect(() => setText(shown), [shown]);
  const value = text.trim() === "" ? null : Number(text.replace(",", "."));
  const odd = value !== null && !(Number.isFinite(value) && value >= 0 && value <= props.most);
  const commit = async () => {
    if (!odd && text.trim() !== shown && !(await props.set(value))) setText(shown);
  };
  return (
    <Labelled>
      {props.label}
      <Field
        inputMode="decimal"
        value={text}
        aria-invalid={odd || undefined}
        style={odd ? { color: "var(--clay)" } : undefined}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => event.key === "Enter" && commit()}
      />
    </Labelled>
  );
}

const Sentence = styled.section`
  display: flex; flex-wrap: wrap; gap: 4px 20px; align-items: baseline; padding: 9px 16px; border-bottom: 1px solid var(--ink);
  small { color: var(--faint); font-size: 12.5px; }
`;

const Row = styled.form`
  display: flex; gap: 8px; align-items: baseline;
  input { width: 40px; text-align: right; }
  button { background: none; border: 0; color: var(--slate); text-decoration: underline; cursor: pointer; }
`;
