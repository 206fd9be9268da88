import styled from "styled-components";
import type { SettingsChanges } from "../../api/client";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount, Paragraph, Text } from "../../kit/fields";
import { minorPerUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { OneOf } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { Closets } from "./Closets";
import { Agreements, Clients, Goals, Growth, Kit, Lines, Services } from "./lists";

const w = words.brief;

/** What is wanted: the client, goals, lines, schools, what is there already, and what was agreed. */
export function Brief() {
  return (
    <Surface>
      <div>
        <Client />
        <Goals />
        <Lines />
        <Clients />
        <Growth />
        <Services />
      </div>
      <div>
        <Closets />
        <Schools />
        <Kit />
        <Agreements />
      </div>
      <Findings verb="brief" />
    </Surface>
  );
}

function Client() {
  const { outcome, edit } = useWork();
  const { project } = outcome;
  const { settings } = project;
  const set = (changes: SettingsChanges) => edit({ type: "change_settings", changes });
  const rename = (name: string, site: string) => edit({ type: "rename", name, site });
  const perUnit = minorPerUnit(settings.currency);
  const money = (minor: number | null | undefined) => (minor == null ? null : minor / perUnit);
  return (
    <Sheet aria-label={w.client}>
      <Heading>
        <h2>{w.client}</h2>
      </Heading>
      <dl>
        <dt>{w.project}</dt>
        <dd>
          <Text label={w.project} value={project.name} set={(name) => rename(name, project.site)} />
        </dd>
        <dt>{w.clientName}</dt>
        <dd>
          <Text label={w.clientName} value={settings.client} set={(client) => set({ client })} />
        </dd>
        <dt>{w.site}</dt>
        <dd>
          <Text label={w.site} value={project.site} set={(site) => rename(project.name, site)} />
        </dd>
        <dt>{w.budget}</dt>
        <dd className="pair">
          <Amount
            label={w.budget}
            value={money(settings.budget_minor)}
            set={(value) => set({ budget_minor: value ? Math.round(value * perUnit) : null })}
          />
          <i>{w.once}</i>
          <Amount
            label={w.yearlyBudget}
            value={money(settings.yearly_budget_minor)}
            set={(value) => set({ yearly_budget_minor: value ? Math.round(value * perUnit) : null })}
          />
          <i>{w.yearly}</i>
        </dd>
        <dt>{w.written}</dt>
        <dd className="pair">
          <Choice
            label={w.currency}
            value={settings.currency}
            options={["EUR", "CHF", "GBP", "USD", "SEK", "NOK", "DKK", "PLN", "CZK"].map((key) => [key, key])}
            set={(currency) => set({ currency })}
          />
          <Choice
            label={w.units}
            value={settings.units}
            options={optionsOf(w.unitNames)}
            set={(units) => set({ units: units as typeof settings.units })}
          />
          <Choice
            label={w.numbers}
            value={settings.numbers}
            options={optionsOf(w.numberNames)}
            set={(numbers) => set({ numbers: numbers as typeof settings.numbers })}
          />
        </dd>
      </dl>
      <Paragraph label={w.notes} value={settings.note} set={(note) => set({ note })} />
    </Sheet>
  );
}

/** The pairs of schools: each choice with its reason beside it. */
function Schools() {
  const { outcome, edit } = useWork();
  const { settings } = outcome.project;
  const set = (changes: SettingsChanges) => edit({ type: "change_settings", changes });
  return (
    <Sheet aria-label={w.schools}>
      <Heading>
        <h2>{w.schools}</h2>
        <span>{w.schoolsLead}</span>
      </Heading>
      <div className="schools">
        {(Object.keys(w.school) as (keyof typeof w.school)[]).map((key) => {
          const school = w.school[key];
          const options = Object.entries(school.options).map(([option, [text, why]]) => ({ key: option, text, why }));
          return (
            <fieldset key={key}>
              <legend>{school.title}</legend>
              <OneOf
                name={key}
                value={String(settings[key])}
                options={options}
                onChange={(value) => set({ [key]: value })}
              />
            </fieldset>
          );
        })}
      </div>
    </Sheet>
  );
}

export const Sheet = styled.section`
  dl { display: grid; grid-template-columns: 92px 1fr; border-top: 1px solid var(--ink); }
  dt, dd { padding: 4px 0; border-bottom: 1px solid var(--rule); }
  dt { color: var(--faint); }
  input:not([type="checkbox"]):not([type="radio"]) { background: none; border: 0; border-bottom: 1px dotted var(--faint); border-radius: 0; padding: 0 1px; }
  dd > input { width: 100%; text-overflow: ellipsis; }
  dd.pair { display: flex; gap: 8px; align-items: baseline; flex-wrap: wrap; }
  dd.pair > input:not([type="checkbox"]) { width: 9ch; text-align: right; }
  &.narrow dd.pair > input:not([type="checkbox"]) { width: 5ch; }
  dd i { font-style: normal; color: var(--faint); margin-right: 8px; }
  textarea { margin-top: 6px; }
  [aria-invalid] { color: var(--clay); text-decoration: underline wavy; }
  > button { margin-top: 5px; }
  .schools { border-top: 1px solid var(--ink); columns: 2; column-gap: 24px; padding-top: 6px; }
  fieldset { border: 0; padding: 0 0 10px; margin: 0; break-inside: avoid; }
  legend { font-weight: 600; padding: 0 0 3px; }
  ${NARROW} { .schools { columns: 1; } }
`;

const Surface = styled.div`
  display: grid; grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr) 280px; min-height: 100%;
  > div { padding: 8px 16px 24px; min-width: 0; display: grid; gap: 18px; align-content: start; grid-template-columns: minmax(0, 1fr); }
  > div + div { border-left: 1px solid var(--rule); }
  .add { color: var(--slate); background: none; border: 0; padding: 0 1px; width: 100%; max-width: 34ch; }
  .add::placeholder { color: var(--slate); opacity: 1; }
  > section { border-left: 1px solid var(--rule); padding: 8px 16px 20px; min-width: 0; }
  @media (max-width: 1100px) {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    > section { grid-column: 1 / -1; border-left: 0; border-top: 1px solid var(--rule); }
  }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); > div + div { border-left: 0; } }
`;
