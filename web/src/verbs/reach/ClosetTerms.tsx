import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Choice, optionsOf } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { lengthUnit, minorPerUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";

const w = words.closetSites;
const l = words.links;
const GRADES = ["OM3", "OM4", "OS2"];
const STRANDS = ["4", "8", "12", "24"];

/** The limits under which places for closets are compared. */
export function SitingTerms() {
  const { outcome, edit } = useWork();
  const { settings } = outcome.project;
  const perUnit = minorPerUnit(settings.currency);
  const set = (changes: Partial<typeof settings>) => edit({ type: "change_settings", changes });
  return (
    <Sheet aria-label={w.limits}>
      <Heading>
        <h2>{w.limits}</h2>
      </Heading>
      <Line label={w.most}>
        <Amount
          label={w.most}
          value={settings.most_closets}
          least={1}
          most={6}
          set={(n) => set({ most_closets: n ?? 3 })}
        />
      </Line>
      <Line label={w.drops}>
        <Amount
          label={w.drops}
          value={settings.closet_drops ?? null}
          least={1}
          most={10_000}
          set={(closet_drops) => set({ closet_drops })}
        />
        <i>{w.dropsWhy}</i>
      </Line>
      <Line label={w.longestRun}>
        <Amount
          label={w.longestRun}
          value={settings.longest_run_m}
          metres
          least={5}
          most={90}
          set={(n) => set({ longest_run_m: n ?? 90 })}
        />
        <i>{lengthUnit()}</i>
      </Line>
      <Line label={w.price}>
        <Amount
          label={`${w.price}: ${w.priceWhy}`}
          value={settings.closet_minor / perUnit}
          most={100_000}
          set={(n) => set({ closet_minor: Math.round((n ?? 0) * perUnit) })}
        />
        <i title={w.priceWhy}>{settings.currency}</i>
      </Line>
      <Line label={w.keep}>
        <Tick
          label={`${w.keep} ${w.keepWhy}`}
          value={settings.keep_head_end}
          set={(keep) => set({ keep_head_end: keep })}
        />
        <i>{w.keepWhy}</i>
      </Line>
    </Sheet>
  );
}

/** What links between closets are made of. */
export function LinkTerms() {
  const { outcome, edit } = useWork();
  const { settings, fibres = [] } = outcome.project;
  const perUnit = minorPerUnit(settings.currency);
  const set = (changes: Partial<typeof settings>) => edit({ type: "change_settings", changes });
  return (
    <>
      <Sheet aria-label={l.project}>
        <Heading>
          <h2>{l.project}</h2>
        </Heading>
        <Line label={l.madeOf}>
          <Choice
            label={l.project}
            value={settings.link_by}
            options={optionsOf(l.by)}
            set={(by) => set({ link_by: by as typeof settings.link_by })}
          />
        </Line>
        <Line label={l.spare}>
          <Amount
            label={l.spare}
            value={settings.spare_strands}
            most={24}
            set={(n) => set({ spare_strands: n ?? 0 })}
          />
        </Line>
        <Line label={l.pairs}>
          <Amount label={l.pairs} value={settings.mated_pairs} most={12} set={(n) => set({ mated_pairs: n ?? 2 })} />
          <i>{l.pairsWhy}</i>
        </Line>
        <Line label={l.strandEnd}>
          <Amount
            label={l.strandEnd}
            value={settings.strand_end_minor / perUnit}
            most={100_000}
            set={(n) => set({ strand_end_minor: Math.round((n ?? 0) * perUnit) })}
          />
          <i>{settings.currency}</i>
        </Line>
      </Sheet>
      <EntryList
        title={l.fibres}
        lead={l.fibresLead}
        list="fibres"
        rows={fibres}
        name={(fibre) => `${fibre.grade}, ${fibre.strands}`}
        fields={[
          { key: "grade", as: { type: "choice", options: GRADES.map((key) => [key, key]) } },
          {
            key: "strands",
            after: l.strands,
            as: { type: "choice", numeric: true, options: STRANDS.map((key) => [key, key]) },
          },
          { key: "minor_per_m", as: { type: "number", scale: perUnit }, after: `${settings.currency} / m` },
        ]}
        add={{ label: l.addFibre, options: GRADES.map((key) => [key, key]), values: (grade) => ({ grade }) }}
      />
    </>
  );
}
