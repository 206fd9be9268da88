import styled from "styled-components";
import type { PatchFor } from "../../api/client";
import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { SheetWord } from "../../instruments/SheetWord";
import { Choice, optionsOf } from "../../kit/Choice";
import { Text } from "../../kit/fields";
import { exact, length, lengthUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { usePatch } from "./usePatch";

const w = words.labels;
const c = words.cordList;
const CATEGORIES = ["5e", "6", "6A"] as const;

/** What is printed, what is on the cables, what has to be taken off; and the cords to buy or make. */
export function LabelView() {
  const patch = usePatch();
  if (!patch) return null;
  return (
    <Page>
      <div>
        <Labels patch={patch} />
      </div>
      <div>
        <Cords patch={patch} />
        <Colours />
        <Stocks />
        <Findings verb="patch" />
      </div>
    </Page>
  );
}

function Labels({ patch }: { patch: PatchFor }) {
  const { id, outcome, edit } = useWork();
  const { settings, drops } = outcome.project;
  const { labelling } = patch;
  const names = new Map(drops.map((drop) => [drop.id, drop]));
  const set = (changes: Partial<typeof settings>) => edit({ type: "change_settings", changes });
  const today = new Date().toISOString().slice(0, 10);
  const named = (drop: number | null) => {
    const one = names.get(drop ?? -1);
    const room = outcome.project.rooms.find((row) => row.id === one?.room_id)?.name ?? "";
    return one ? `${one.label || one.kind.replace("_", " ")}, ${room}` : "";
  };
  const rank = { changed: 0, off: 1, new: 2, same: 3 };
  const lines = labelling.lines.toSorted((a, b) => rank[a.state] - rank[b.state]);
  return (
    <section aria-label={w.title}>
      <Sheet aria-label={w.school}>
        <Line label={w.school}>
          <Choice
            label={w.school}
            value={settings.labels ?? "running"}
            options={optionsOf(w.schools)}
            set={(labels) => set({ labels })}
          />
        </Line>
        <Line label={w.stock}>
          <Choice
            label={w.stock}
            value={labelling.key}
            options={optionsOf(labelling.stocks)}
            set={(label_stock) => set({ label_stock })}
          />
        </Line>
      </Sheet>
      <Heading>
        <h2>{w.title}</h2>
        <span>
          {w.sums(labelling.to_print, labelling.sheets, labelling.tape_mm ? w.tape(exact(labelling.tape_mm)) : "")}
        </span>
      </Heading>
      <Acts>
        {labelling.to_print > 0 && (
          <>
            <SheetWord sheet="labels">{w.pdf}</SheetWord>
            <a href={`/api/projects/${id}/patch/labels.csv`}>{w.csv}</a>
          </>
        )}
        <SheetWord sheet="strips">{w.strips}</SheetWord>
        <SheetWord sheet="legend">{w.legend}</SheetWord>
        {lines.some((line) => line.state !== "same") && (
          <Word onPress={() => edit({ type: "put_labels", day: today })}>{w.put}</Word>
        )}
        <span>{w.trueSize}</span>
      </Acts>
      <Rolls>
        {lines.map((line) => (
          <li key={`${line.drop_id} ${line.printed}`} data-state={line.state}>
            {line.drop_id == null ? (
              <b>{line.printed}</b>
            ) : (
              <Text
                label={w.textOf(named(line.drop_id))}
                value={names.get(line.drop_id)?.label ?? ""}
                placeholder={line.text}
                set={(label) => edit({ type: "change_drops", ids: [line.drop_id ?? 0], changes: { label } })}
              />
            )}
            <span>{named(line.drop_id)}</span>
            <i>
              {w.state[line.state]}
              {line.state === "changed" && `, ${w.was(line.printed)}`}
              {line.too_long && <em> {w.tooLong(exact(line.size_mm))}</em>}
            </i>
          </li>
        ))}
      </Rolls>
    </section>
  );
}

/** The cords of all closets, by colour and length. */
function Cords({ patch }: { patch: PatchFor }) {
  const { id, outcome, edit } = useWork();
  const { cords } = patch;
  const set = (changes: Partial<typeof outcome.project.settings>) => edit({ type: "change_settings", changes });
  const metres = (value: number) => `${length(value, 2)} ${lengthUnit()}`;
  const { kinds } = useWork();
  const use = (key: string) =>
    key in c.uses ? c.uses[key as keyof typeof c.uses] : (kinds.find((one) => one.key === key)?.plural ?? key);
  return (
    <section aria-label={c.title}>
      <Heading>
        <h2>{c.title}</h2>
        <span>{cords.count ? c.sum(cords.count) : c.none}</span>
        {cords.count > 0 && <a href={`/api/projects/${id}/patch/cords.csv`}>{c.csv}</a>}
      </Heading>
      <Bundles>
        {cords.lines.map((one) => (
          <li key={`${one.colour} ${one.length_m}`}>
            <b>{one.count} ×</b>
            <span>
              {one.length_m == null ? c.noLength : metres(one.length_m)}, {one.colour || c.noColour}
              <small>
                {one.uses.map(use).join(", ").toLowerCase()}
                {one.length_m != null && !one.stock && `, ${c.beyond}`}
              </small>
            </span>
          </li>
        ))}
      </Bundles>
      {cords.unknown > 0 && <p>{c.noLengthWhy(cords.unknown)}</p>}
      <Sheet aria-label={c.from}>
        <Line label={c.from}>
          <Choice
            label={c.from}
            value={cords.source}
            options={optionsOf(c.froms)}
            set={(cords_from) => set({ cords_from })}
          />
        </Line>
        <Line label={c.category}>
          <Choice
            label={c.category}
            value={cords.category}
            options={CATEGORIES.map((key) => [key, key] as const)}
            set={(cord_category) => set({ cord_category })}
          />
        </Line>
      </Sheet>
      {cords.source === "home_made" && <p>{c.homeMade(metres(cords.cable_m), cords.plugs)}</p>}
    </section>
  );
}

function Colours() {
  const { outcome, kinds } = useWork();
  const rows = outcome.project.cord_colours ?? [];
  const uses = [...Object.entries(c.uses), ...kinds.map((kind) => [kind.key, kind.plural] as const)];
  return (
    <EntryList
      title={c.colours}
      list="cord_colours"
      rows={rows}
      name={(one) => uses.find(([key]) => key === one.use)?.[1] ?? one.use}
      fields={[
        { key: "use", as: { type: "choice", options: uses } },
        { key: "colour", as: { type: "text", width: 12 } },
      ]}
      add={{
        label: c.addColour,
        options: uses.filter(([key]) => !rows.some((one) => one.use === key)),
        values: (use) => ({ use, colour: "grey" }),
      }}
    />
  );
}

function Stocks() {
  const rows = useWork().outcome.project.stocks ?? [];
  return (
    <EntryList
      title={w.stocks}
      list="stocks"
      rows={rows}
      name={(one) => one.name}
      fields={[
        { key: "name", as: { type: "text", width: 18, strong: true } },
        { key: "form", as: { type: "choice", options: optionsOf(w.form) } },
        { key: "page", when: (one) => one.form === "sheet", as: { type: "choice", options: optionsOf(w.pages) } },
        { key: "width_mm", before: w.width, after: "mm", as: { type: "number", width: 5, least: 4, most: 300 } },
        { key: "height_mm", before: w.height, after: "mm", as: { type: "number", width: 5, least: 3, most: 300 } },
        { key: "print_mm", before: w.print, after: "mm", as: { type: "number", width: 5, least: 3, most: 300 } },
        ...(
          [
            ["columns", w.columns, ""],
            ["rows", w.rows, ""],
            ["left_mm", w.left, "mm"],
            ["top_mm", w.top, "mm"],
            ["step_x_mm", w.stepX, "mm"],
            ["step_y_mm", w.stepY, "mm"],
          ] as const
        ).map(([key, before, after]) => ({
          key,
          before,
          after,
          when: (one: (typeof rows)[number]) => one.form === "sheet",
          as: { type: "number" as const, width: 5, most: 300 },
        })),
      ]}
      add={{ placeholder: w.addStock, values: (name) => ({ name, width_mm: 40, height_mm: 12, form: "tape" }) }}
    />
  );
}

const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 340px; gap: 26px; padding: 8px 16px 20px;
  > div { display: grid; gap: 16px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  section > p { color: var(--faint); padding: 4px 0; }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
`;
const Acts = styled.div`
  display: flex; flex-wrap: wrap; gap: 2px 16px; padding: 2px 0 6px;
  span { color: var(--faint); }
`;
/** Labels as they come off the roll: cut here, one beside the other. */
const Rolls = styled.ul`
  border-top: 1px solid var(--ink); columns: 2 330px; column-gap: 26px;
  li {
    display: grid; grid-template-columns: 21ch minmax(0, 1fr) auto; gap: 10px; padding: 3px 0; border-bottom: 1px solid var(--rule);
    break-inside: avoid; align-items: baseline;
  }
  input, b { font-weight: 650; font-stretch: 100%; background: var(--sheet); border: 1px solid var(--rule); padding: 0 6px; min-width: 0; text-align: center; }
  input::placeholder { color: var(--ink); opacity: 1; font-weight: 650; }
  span { color: var(--faint); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-stretch: 84%; }
  i { font-style: normal; font-stretch: 84%; color: var(--faint); white-space: nowrap; }
  [data-state="changed"] i, [data-state="off"] i { color: var(--ochre); }
  em { font-style: normal; color: var(--clay); }
`;
const Bundles = styled.ul`
  border-top: 1px solid var(--ink); margin-bottom: 6px;
  li { display: grid; grid-template-columns: 5ch minmax(0, 1fr); gap: 10px; padding: 2px 0; border-bottom: 1px solid var(--rule); }
  b { text-align: right; font-weight: 600; }
  small { color: var(--faint); font-size: 12.5px; padding-left: 10px; }
`;
