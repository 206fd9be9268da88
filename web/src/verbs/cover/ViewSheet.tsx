import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { Drop, DropChanges, ModelOffer, View, ViewLine } from "../../api/client";
import { addTo, changeIn, type Values } from "../../api/edits";
import { keepPicture } from "../../api/files";
import { useWork } from "../../api/work";
import { Choice, optionsOf } from "../../kit/Choice";
import { FileWord } from "../../kit/FileWord";
import { Amount, Day, Paragraph, Text } from "../../kit/fields";
import { figure, length, lengthUnit, money } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { Caution } from "./page";
import { DETAILS, keyOf, useModels, useSayOfView, useSun } from "./useCover";

const w = words.viewSheet;
const TURNS = "pan_tilt";
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** A camera with its views: optics and aim of each, what it reaches, and the still that was taken there. */
export function ViewSheet(props: { drop: number; views: readonly ViewLine[]; isStanding?: boolean }) {
  const { drop: number, views } = props;
  const { outcome, edit, kinds, choose } = useWork();
  const drop = outcome.project.drops.find((one) => one.id === number);
  const [first] = views;
  if (!drop || !first) return null;
  const kind = kinds.find((one) => one.key === drop.kind);
  const change = (changes: DropChanges) => edit({ type: "change_drops", ids: [drop.id], changes });
  return (
    <Sheet aria-label={first.name}>
      <Heading>
        <h2>{first.name}</h2>
        <Word onPress={() => choose({ drops: new Set() })}>{words.targets.done}</Word>
      </Heading>
      {drop.kind === "camera" && <Models drop={drop} view={first} />}
      <Line label={w.form}>
        <Choice
          label={w.form}
          value={drop.variant || kind?.variants[0]?.key || ""}
          options={(kind?.variants ?? []).map((form) => [form.key, form.name])}
          set={(variant) => change({ variant })}
        />
      </Line>
      <Line label={w.pixels}>
        <Amount
          label={w.pixels}
          value={drop.megapixels ?? null}
          usual={drop.kind === "camera" ? 4 : 2}
          least={0.3}
          most={64}
          set={(megapixels) => change({ megapixels })}
        />
        <i>{w.pictureIs(first.across_px, first.down_px, figure(first.down_deg))}</i>
      </Line>
      <Line label={w.height}>
        <Amount
          label={w.height}
          value={drop.height_m ?? null}
          usual={first.height_m}
          metres
          least={-10}
          most={100}
          set={(height_m) => change({ height_m })}
        />
        <i>
          {lengthUnit()} {w.heightWhy}
        </i>
      </Line>
      <Line label={w.joined}>
        <Tick label={w.joined} value={drop.over_wifi ?? false} set={(over_wifi) => change({ over_wifi })}>
          {w.overWifi}
        </Tick>
      </Line>
      {views.map((view) => (
        <OneView key={keyOf(view)} view={view} isOnly={views.length === 1} isStanding={props.isStanding} />
      ))}
      <Acts>
        <Word
          onPress={() => {
            // what nobody has typed of the first view gets a row of its own before there is a second
            const more = addTo("views", { drop_id: drop.id, bearing_deg: (first.bearing_deg + 90) % 360 });
            edit(...(first.view_id ? [more] : [addTo("views", { drop_id: drop.id }), more]));
          }}
        >
          {drop.variant === TURNS ? w.more.turns : w.more.camera}
        </Word>
      </Acts>
      <Caution>{w.caution}</Caution>
    </Sheet>
  );
}

/** What is bought: a camera with its lens, and what it hangs from. */
function Models({ drop, view }: { drop: Drop; view: ViewLine }) {
  const { outcome, edit } = useWork();
  const offers = useModels();
  const currency = outcome.project.settings.currency ?? "EUR";
  const keyOf = (offer: { model: string; lens: string }) => `${offer.model} ${offer.lens}`;
  const take = (offer: ModelOffer) => {
    const of = offer.view as Values<"views">;
    const said = view.view_id ? changeIn("views", view.view_id, of) : addTo("views", { drop_id: drop.id, ...of });
    return edit({ type: "change_drops", ids: [drop.id], changes: offer.drop }, said);
  };
  const listed = (some: readonly ModelOffer[], now: string) =>
    some
      .filter((offer) => offer.in_stock || keyOf(offer) === now)
      .map((offer) => [keyOf(offer), w.listed(offer.name, money(offer.price_minor, currency))] as const);
  const camera = drop.model ? keyOf({ model: drop.model, lens: drop.lens_model ?? "" }) : "";
  const bracket = drop.bracket_model ? keyOf({ model: drop.bracket_model, lens: "" }) : "";
  const choose = (some: readonly ModelOffer[], key: string, none: DropChanges) => {
    const offer = some.find((one) => keyOf(one) === key);
    return offer ? take(offer) : edit({ type: "change_drops", ids: [drop.id], changes: none });
  };
  if (!offers) return null;
  return (
    <>
      <Line label={w.model}>
        <Choice
          label={w.model}
          value={camera}
          options={[["", w.noModel], ...listed(offers.cameras, camera)]}
          set={(key) => choose(offers.cameras, key, { model: null, lens_model: null })}
        />
      </Line>
      <Line label={w.hangsOn}>
        <Choice
          label={w.hangsOn}
          value={bracket}
          options={[["", w.noBracket], ...listed(offers.brackets, bracket)]}
          set={(key) => choose(offers.brackets, key, { bracket_model: null })}
        />
      </Line>
    </>
  );
}

function OneView({ view, isOnly, isStanding }: { view: ViewLine; isOnly: boolean; isStanding?: boolean }) {
  const { id, outcome, edit } = useWork();
  const sayOf = useSayOfView();
  const say = (said: Parameters<typeof sayOf>[1]) => sayOf(view, said);
  const row = outcome.project.views?.find((one) => one.id === view.view_id);
  const typed = <Key extends keyof NonNullable<typeof row>>(key: Key) => row?.[key] ?? null;
  const degrees = (
    label: string,
    key: "field_deg" | "narrowest_deg" | "bearing_deg" | "tilt_deg",
    usual: number | undefined,
    least: number,
    most: number,
  ) => (
    <Amount
      label={`${label}, ${view.name}`}
      value={typed(key)}
      usual={usual}
      least={least}
      most={most}
      set={(value) => say({ [key]: value })}
    />
  );
  return (
    <>
      {!isOnly && (
        <Line label={w.name}>
          <Text label={w.name} value={row?.name ?? ""} placeholder={w.nameOf} set={(name) => say({ name })} />
        </Line>
      )}
      <Line label={w.angle}>
        {degrees(w.angle, "field_deg", view.across_deg, 0.1, 360)}
        <i>°</i>
        <Choice
          label={w.lens}
          value={view.projection}
          options={optionsOf(w.lenses)}
          set={(projection) => say({ projection })}
        />
      </Line>
      <Line label={w.zoom}>
        {degrees(w.zoom, "narrowest_deg", undefined, 0.1, 360)}
        <i>
          {view.zoomed_identify_m == null ? w.zoomWhy : w.zoomed(`${length(view.zoomed_identify_m)} ${lengthUnit()}`)}
        </i>
      </Line>
      <Line label={w.bearing}>
        {degrees(w.bearing, "bearing_deg", view.bearing_deg, 0, 359.99)}
        <i>{w.bearingWhy}</i>
      </Line>
      <Line label={w.tilt}>
        {degrees(w.tilt, "tilt_deg", view.tilt_deg, -90, 90)}
        <i>{w.tiltWhy}</i>
      </Line>
      <Line label={w.light}>
        <Amount
          label={`${w.light}, ${view.name}`}
          value={typed("light_m")}
          usual={view.light_m}
          metres
          most={500}
          set={(light_m) => say({ light_m })}
        />
        <i>
          {lengthUnit()} {w.lightWhy}
        </i>
      </Line>
      <Line label={w.bracket}>
        <Amount
          label={`${w.bracket}, ${view.name}`}
          value={typed("bracket_m")}
          usual={0.1}
          metres
          most={3}
          set={(bracket_m) => say({ bracket_m })}
        />
        <i>
          {lengthUnit()} {w.bracketWhy}
        </i>
      </Line>
      <Line label={w.reach}>
        <Reaches>
          {DETAILS.map((detail, place) => (
            <span key={detail}>
              {words.cover.details[detail]} <b>{length(view.bands[place]?.reach_m ?? 0)}</b>
            </span>
          ))}
          <i>{lengthUnit()}</i>
        </Reaches>
      </Line>
      <Line label={w.blind}>
        <span>
          {view.blind_m == null
            ? w.neverDown
            : view.blind_m === 0
              ? w.noBlind
              : `${length(view.blind_m, 2)} ${lengthUnit()}`}
        </span>
      </Line>
      {view.near_wall_share > 0 && (
        <Line label={w.near}>
          <span>{w.nearIs(figure(view.near_wall_share * 100))}</span>
        </Line>
      )}
      <Line label={w.sun}>
        <LowSun view={view} />
      </Line>
      {(row?.masks?.length ?? 0) > 0 && (
        <Line label="">
          <span>{w.masks(row?.masks?.length ?? 0)}</span>
          <Word onPress={() => say({ masks: [] })}>{w.removeMasks}</Word>
        </Line>
      )}
      <Still view={view} row={row} />
      <Acts>
        {!isStanding && <Link to={`/projects/${id}/cover/standing`}>{w.standing}</Link>}
        {view.view_id && !isOnly && (
          <Word onPress={() => edit({ type: "remove_entry", list: "views", id: view.view_id ?? 0 })}>{w.remove}</Word>
        )}
      </Acts>
    </>
  );
}

function LowSun({ view }: { view: ViewLine }) {
  const { latitude_deg: place, north_deg: north } = useWork().outcome.project.settings;
  const known = place != null && north != null;
  const suns = useSun();
  if (!known) return <span>{w.sunUnknown}</span>;
  const sun = suns?.find((one) => keyOf(one) === keyOf(view))?.sun;
  if (!sun) return <span aria-busy="true">…</span>;
  if (!sun.days) return <span>{w.sunNone}</span>;
  const months = sun.months.map((one) => `${MONTHS[one.month - 1]} ${one.earliest}–${one.latest}`);
  const told = months.length > 2 ? `${months[0]} … ${months.at(-1)}` : months.join(", ");
  return <span title={months.join("\n")}>{w.sunDays(sun.days, told)}</span>;
}

/** The picture taken from its place before it was fixed, and what stays unseen. */
function Still({ view, row }: { view: ViewLine; row: View | undefined }) {
  const { id, say } = useWork();
  const sayOf = useSayOfView();
  const [busy, setBusy] = useState(false);
  const take = async (file: File) => {
    setBusy(true);
    try {
      const kept = await keepPicture(id, file);
      await sayOf(view, { still: kept.key, still_day: row?.still_day ?? new Date().toLocaleDateString("sv-SE") });
    } catch (error) {
      say((error as Error).message);
    }
    setBusy(false);
  };
  return (
    <StillFrame>
      {row?.still && (
        <a href={`/api/projects/${id}/pictures/${row.still}`} target="_blank" rel="noreferrer">
          <img src={`/api/projects/${id}/pictures/${row.still}`} alt={w.stillOf(view.name)} />
        </a>
      )}
      <p>
        <FileWord
          label={row?.still ? w.retake : w.take}
          busy={busy && w.working}
          accept="image/png,image/jpeg"
          capture="environment"
          onFile={take}
        />
        {row?.still ? (
          <Day
            label={`${w.still}, ${view.name}`}
            value={row.still_day ?? null}
            set={(still_day) => sayOf(view, { still_day })}
          />
        ) : (
          <i>{w.stillWhy}</i>
        )}
      </p>
      <Paragraph label={w.unseen} value={row?.unseen ?? ""} set={(unseen) => sayOf(view, { unseen })} />
    </StillFrame>
  );
}

const Acts = styled.div`display: flex; gap: 14px; padding-top: 6px; flex-wrap: wrap;`;
const Reaches = styled.span`
  display: flex; flex-wrap: wrap; gap: 0 9px;
  b { font-weight: 600; }
`;
const StillFrame = styled.div`
  display: grid; gap: 4px; padding: 6px 0 2px;
  img { width: 100%; max-height: 180px; object-fit: cover; display: block; border: 1px solid var(--rule); }
  p { display: flex; gap: 10px; align-items: baseline; flex-wrap: wrap; }
  p > i { font-style: normal; color: var(--faint); }
`;
