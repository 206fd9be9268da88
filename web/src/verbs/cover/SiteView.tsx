import { useState } from "react";
import styled from "styled-components";
import { changeIn } from "../../api/edits";
import { readOpenings } from "../../api/files";
import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { useLayout } from "../../instruments/plan/useLayout";
import { optionsOf } from "../../kit/Choice";
import { cornersOf, cornersText } from "../../kit/corners";
import { FileWord } from "../../kit/FileWord";
import { Amount, Text } from "../../kit/fields";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { words } from "../../words";
import { CoverPage } from "./page";

const w = words.openings;

/** Openings typed as a list, the boundary of the plot, and where on the earth the site is. */
export function SiteView() {
  const { outcome, edit } = useWork();
  const { openings, floors, settings } = outcome.project;
  const layout = useLayout();
  const counted = (id: number) => layout?.layout.openings.find((one) => one.id === id);
  const set = (changes: Partial<typeof settings>) => edit({ type: "change_settings", changes });
  const degrees = (
    label: string,
    why: string,
    key: "latitude_deg" | "longitude_deg" | "north_deg",
    least: number,
    most: number,
  ) => (
    <Line label={label}>
      <Amount
        label={label}
        value={settings[key] ?? null}
        least={least}
        most={most}
        set={(value) => set({ [key]: value })}
      />
      <i>{why}</i>
    </Line>
  );
  return (
    <CoverPage>
      <div>
        <EntryList
          title={w.title}
          lead={w.lead}
          list="openings"
          rows={openings ?? []}
          name={(opening) => opening.name || w.kinds[opening.kind ?? "door"]}
          fields={[
            { key: "kind", as: { type: "choice", options: optionsOf(w.kinds) } },
            { key: "name", as: { type: "text", width: 14, placeholder: w.name } },
            {
              key: "floor_id",
              before: w.floor,
              as: { type: "choice", numeric: true, options: floors.map((floor) => [String(floor.id), floor.name]) },
            },
            { key: "x_m", before: w.at, as: { type: "number", least: -5000, most: 5000 } },
            { key: "y_m", as: { type: "number", least: -5000, most: 5000 }, after: "m" },
            { key: "width_m", before: w.width, as: { type: "number", least: 0.05, most: 50 }, after: "m" },
            {
              key: "sill_m",
              before: w.sill,
              as: { type: "number", most: 30, usual: (opening) => counted(opening.id)?.sill_m },
              after: "m",
            },
            {
              key: "head_m",
              before: w.head,
              as: { type: "number", most: 30, usual: (opening) => counted(opening.id)?.head_m },
              after: "m",
            },
            {
              key: "see_through",
              before: w.through,
              as: { type: "tick", usual: (opening) => counted(opening.id)?.see_through },
            },
          ]}
          add={{
            label: w.add,
            options: optionsOf(w.kinds),
            values: (kind) => ({ kind, floor_id: floors[0]?.id, x_m: 0, y_m: 0 }),
          }}
        />
        <ListInAndOut />
        <PlotList />
      </div>
      <div>
        <Sheet aria-label={w.site}>
          <Heading>
            <h2>{w.site}</h2>
            <span>{w.siteLead}</span>
          </Heading>
          {degrees(w.latitude, w.latitudeWhy, "latitude_deg", -90, 90)}
          {degrees(w.longitude, w.longitudeWhy, "longitude_deg", -180, 180)}
          {degrees(w.north, w.northWhy, "north_deg", 0, 359.99)}
          <Line label={w.zone}>
            <Text label={w.zone} value={settings.time_zone ?? "UTC"} set={(time_zone) => set({ time_zone })} />
          </Line>
        </Sheet>
        <Findings verb="cover" />
      </div>
    </CoverPage>
  );
}

/** Openings and walls as a list, in and out. */
function ListInAndOut() {
  const { id, edit, say } = useWork();
  const [busy, setBusy] = useState(false);
  const take = async (file: File) => {
    setBusy(true);
    try {
      const edits = await readOpenings(id, file);
      if (edits.length) await edit(...edits);
    } catch (error) {
      say((error as Error).message);
    }
    setBusy(false);
  };
  return (
    <Links>
      <FileWord label={w.bringIn} busy={busy && w.reading} accept=".csv,.xlsx,.txt,.tsv" onFile={take} />
      <a href={`/api/projects/${id}/openings.csv`}>{w.takeOut}</a>
      <span>{w.columns}</span>
    </Links>
  );
}

/** The boundary of the own ground, by its corners. */
function PlotList() {
  const { outcome, edit, say } = useWork();
  const setCorners = async (id: number, text: string) => {
    const outline = cornersOf(text);
    if (!outline) {
      say(words.pathSheet.cornersOdd);
      return false;
    }
    return edit(changeIn("plots", id, { outline }));
  };
  return (
    <Sheet aria-label={w.plots}>
      <Heading>
        <h2>{w.plots}</h2>
        <span>{w.plotsLead}</span>
      </Heading>
      {(outcome.project.plots ?? []).map((plot) => (
        <Line key={plot.id} label={plot.name ?? ""}>
          <Text
            label={words.targets.corners}
            value={cornersText(plot.outline)}
            most={2000}
            set={(text) => setCorners(plot.id, text)}
          />
          <Word onPress={() => edit({ type: "remove_entry", list: "plots", id: plot.id })}>{w.remove}</Word>
        </Line>
      ))}
    </Sheet>
  );
}

const Links = styled.p`
  display: flex; gap: 14px; flex-wrap: wrap; align-items: baseline;
  span { color: var(--faint); }
`;
