import styled from "styled-components";
import type { PlaceLine, Sites, Siting } from "../../api/client";
import { isSearched, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { figure, length, lengthUnit, roundMoney } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Sided } from "../../kit/sided";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { ClosetLinks } from "./ClosetLinks";
import { ClosetPlaces } from "./ClosetPlaces";
import { LinkTerms, SitingTerms } from "./ClosetTerms";
import { useSiting } from "./useSiting";

const w = words.closetSites;

/** Where closets stand best, place beside place, and how they are linked. */
export function ClosetsView() {
  const { underway, found, stop, again, isOld } = useSiting();
  const { outcome } = useWork();
  const siting = found?.reply;
  const hasDrops = outcome.project.drops.length > 0;
  return (
    <Surface>
      <div className="main">
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            <span>{w.lead}</span>
          </Heading>
          {!hasDrops && <p>{w.noDrops}</p>}
          {underway && (
            <p className="working" role="status">
              {isSearched(underway) ? (
                <>
                  <progress value={underway.share} max={1} aria-label={w.working(underway.text)} />
                  {w.working(underway.text)} <Word onPress={stop}>{w.stop}</Word>
                </>
              ) : (
                <>
                  {underway.told || w.stopped} <Word onPress={again}>{w.again}</Word>
                </>
              )}
            </p>
          )}
          {siting && hasDrops && <Answers siting={siting} recommended={found.recommended ?? null} isOld={isOld} />}
        </section>
        {siting && <ClosetPlaces places={siting.places} />}
        <ClosetLinks />
      </div>
      <div className="beside">
        <SitingTerms />
        <LinkTerms />
        <Findings verb="reach" />
      </div>
    </Surface>
  );
}

function Answers(props: { siting: Siting; recommended: number | null; isOld: boolean }) {
  const { siting } = props;
  const { rooms } = useWork().outcome.project;
  if (!siting.best.length) return <p className="said">{w.noPlaces}</p>;
  const nameOf = (place: number) => rooms.find((room) => room.id === siting.places[place]?.room_id)?.name ?? "";
  const left = new Set(siting.left_out.map((one) => one.place));
  const stands = siting.now?.closets.some((site) => left.has(site.place));
  return (
    <>
      <div className="answers" data-old={props.isOld || undefined}>
        {siting.now && <Answer title={w.now} sites={siting.now} places={siting.places} />}
        {siting.best.map((sites) => (
          <Answer
            key={sites.closets.length}
            title={w.closets(sites.closets.length)}
            sites={sites}
            places={siting.places}
            isBest={sites.closets.length === props.recommended}
            canTake
          />
        ))}
      </div>
      {siting.left_out.length > 0 && (
        <p className="said">
          {w.leftOut(siting.left_out.length)}:{" "}
          {siting.left_out.map((one) => `${nameOf(one.place)} (${one.why})`).join(", ")}.{stands && ` ${w.nowLeftOut}`}
        </p>
      )}
      {siting.nowhere.length > 0 && <p className="said">{w.nowhere(siting.nowhere.length)}</p>}
    </>
  );
}

function Answer(props: {
  title: string;
  sites: Sites;
  places: readonly PlaceLine[];
  isBest?: boolean;
  canTake?: boolean;
}) {
  const { outcome, edit, choose } = useWork();
  const { rooms, settings } = outcome.project;
  const { sites } = props;
  const unit = lengthUnit();
  const cash = (minor: number) => roundMoney(minor, settings.currency);
  const place = (number: number) => props.places[number] as PlaceLine;
  const name = (number: number) => rooms.find((room) => room.id === place(number).room_id)?.name ?? "";
  const stands = sites.closets.every((site) => place(site.place).closet_id != null);
  const take = () =>
    edit({
      type: "place_closets",
      sites: sites.closets.map((site) => {
        const { room_id, x_m, y_m } = place(site.place);
        return { room_id, x_m, y_m, drop_ids: site.drop_ids };
      }),
    });
  return (
    <article aria-label={props.title} data-best={props.isBest || undefined}>
      <h3>{props.title}</h3>
      <p className="total">
        {cash(sites.total_minor)}
        <small>{props.isBest ? w.best : w.total}</small>
      </p>
      <ol>
        {sites.closets.map((site) => (
          <li key={site.place}>
            <b>{name(site.place)}</b>
            <span>
              {w.serves(site.drop_ids.length, `${length(site.longest_m)} ${unit}`)}
              {site.link_m > 0 && `; ${w.link(`${length(site.link_m)} ${unit}`)}`}
            </span>
          </li>
        ))}
      </ol>
      <dl>
        <dt>
          {w.cable}, {length(sites.cable_m, 0)} {unit}
        </dt>
        <dd>{cash(sites.cable_minor)}</dd>
        <dt>
          {w.labour}, {figure(sites.hours)} h
        </dt>
        <dd>{cash(sites.labour_minor)}</dd>
        {sites.links_minor > 0 && (
          <>
            <dt>{w.links}</dt>
            <dd>{cash(sites.links_minor)}</dd>
          </>
        )}
        {sites.entry_minor > 0 && (
          <>
            <dt>{w.entry}</dt>
            <dd>{cash(sites.entry_minor)}</dd>
          </>
        )}
        {sites.closets_minor > 0 && (
          <>
            <dt>{w.further}</dt>
            <dd>{cash(sites.closets_minor)}</dd>
          </>
        )}
        {sites.switches_minor > 0 && (
          <>
            <dt>{sites.switches_known ? w.switches : w.switchesAtLeast}</dt>
            <dd>{cash(sites.switches_minor)}</dd>
          </>
        )}
      </dl>
      <p className={sites.beyond.length ? "beyond" : ""}>
        {w.beyond(sites.beyond.length)}
        {sites.beyond.length > 0 && (
          <>
            {" "}
            <Word
              aria-label={`${w.showBeyond}: ${w.beyond(sites.beyond.length)}`}
              onPress={() => choose({ drops: new Set(sites.beyond), path: null })}
            >
              {w.showBeyond}
            </Word>
          </>
        )}
      </p>
      {props.canTake && (
        <>
          <p className="faint">{sites.proven ? w.proven : w.bound(cash(sites.bound_minor))}</p>
          {stands && sites.closets.length === outcome.project.closets.length ? (
            <p className="faint">{w.here}</p>
          ) : (
            <Word aria-label={`${w.take}: ${props.title}`} onPress={take}>
              {w.take}
            </Word>
          )}
        </>
      )}
    </article>
  );
}

const Surface = styled(Sided)`
  .main { padding: 6px 14px 20px 16px; display: grid; gap: 20px; align-content: start; min-width: 0; }
  .main > section { min-width: 0; }
  .working { display: flex; gap: 10px; align-items: baseline; color: var(--faint); padding: 4px 0; }
  progress { appearance: none; height: 4px; width: 160px; border: 0; background: var(--rule); align-self: center; }
  progress::-webkit-progress-bar { background: var(--rule); }
  progress::-webkit-progress-value { background: var(--clay); }
  .said { font: 14px/1.4 var(--voice); padding: 4px 0; max-width: 64ch; }
  .faint { color: var(--faint); }
  .answers { display: grid; grid-template-columns: repeat(auto-fit, minmax(190px, 1fr)); border-top: 1px solid var(--ink); border-bottom: 1px solid var(--rule); }
  .answers[data-old] { opacity: 0.6; }
  .answers article { padding: 6px 12px 10px; border-left: 1px solid var(--rule); display: flex; flex-direction: column; gap: 6px; min-width: 0; align-items: stretch; }
  .answers article:first-child { border-left: 0; padding-left: 0; }
  .answers article[data-best] { box-shadow: inset 0 3px 0 var(--clay); }
  .answers h3 { font: 600 15px/1.2 var(--voice); }
  .total { font: 600 19px/1.1 var(--voice); display: flex; align-items: baseline; gap: 0 6px; flex-wrap: wrap; }
  .total small { font: 12.5px var(--data); color: var(--faint); }
  [data-best] .total small { color: var(--clay); }
  .answers ol { display: grid; gap: 3px; }
  .answers li { display: grid; }
  .answers li b { font-weight: 600; }
  .answers li span { color: var(--faint); }
  .answers dl { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 1px 8px; }
  .answers dt { color: var(--faint); }
  .answers dd { text-align: right; }
  .beyond { color: var(--clay); }
  .answers button { align-self: start; }
  ${NARROW} {
    .answers { grid-template-columns: minmax(0, 1fr); }
    .answers article { border-left: 0; border-top: 1px solid var(--rule); padding: 8px 0; }
  }
`;
