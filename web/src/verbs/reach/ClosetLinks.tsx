import styled from "styled-components";
import { data, http, type Link } from "../../api/client";
import { changeIn } from "../../api/edits";
import { useOfRevision, useWork } from "../../api/work";
import { Choice } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { figure, length, lengthUnit, money } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.links;

/** The link of every further closet: what carries it, why, and what else would. */
export function ClosetLinks() {
  const { outcome } = useWork();
  const links = useOfRevision("links", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/links", { params: { path }, signal })),
  )?.links;
  const { closets } = outcome.project;
  const further = closets.slice(1);
  return (
    <Section aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>{w.lead}</span>
      </Heading>
      {further.length === 0 && <p className="said">{w.none}</p>}
      {links &&
        further
          .filter((closet) => !links.some((link) => link.closet_id === closet.id))
          .map((closet) => (
            <p key={closet.id} className="said">
              {w.noRoom(closet.name)}
            </p>
          ))}
      {links?.map((link) => (
        <OneLink key={link.closet_id} link={link} />
      ))}
      {further.length > 0 && <p className="said">{w.caution}</p>}
    </Section>
  );
}

function OneLink({ link }: { link: Link }) {
  const { outcome, edit } = useWork();
  const { closets, settings } = outcome.project;
  const closet = closets.find((one) => one.id === link.closet_id);
  if (!closet) return null;
  const nameOf = (number: number) => closets.find((one) => one.id === number)?.name ?? "";
  const set = (changes: object) => edit(changeIn("closets", closet.id, changes));
  const chosen = link.chosen == null ? null : link.options[link.chosen];
  const other = chosen?.medium === "fibre" ? "copper" : "fibre";
  return (
    <article aria-label={`${closet.name} ${w.to} ${nameOf(link.to_id)}`}>
      <h3>
        {closet.name} {w.to} {nameOf(link.to_id)}
      </h3>
      <p>
        <Amount
          label={`${closet.name}: ${w.measured}`}
          value={closet.link_m ?? null}
          usual={link.length_m}
          metres
          least={0.1}
          most={10_000}
          set={(link_m) => set({ link_m })}
        />{" "}
        {lengthUnit()}
        {link.measured && `, ${w.measured}`}; {w.carries(figure(link.traffic_mbit))}
        {link.between_buildings && `; ${w.apart}`}. {w.fedBy}{" "}
        <Choice
          label={`${closet.name}: ${w.fedBy}`}
          value={String(link.to_id)}
          options={closets
            .filter((one) => one.id !== closet.id)
            .map((one): [string, string] => [String(one.id), one.name])}
          set={(number) => set({ fed_by_id: Number(number) === closets[0]?.id ? null : Number(number) })}
        />
      </p>
      <p className="chosen">
        {chosen ? (
          <>
            <b>{chosen.name}</b> {money(chosen.total_minor, settings.currency)}, {w.why} {link.why}.
          </>
        ) : (
          <em>{link.why}.</em>
        )}{" "}
        {link.options.some((one) => one.medium === other && one.why_not === "") && (
          <Word onPress={() => set({ link: other })}>{w.take(w.medium[other])}</Word>
        )}{" "}
        {closet.link !== "" && <Word onPress={() => set({ link: "" })}>{w.rule}</Word>}
      </p>
      {chosen && (
        <p className="parts">
          {chosen.parts
            .map((part) =>
              part.unit === "m"
                ? `${length(part.count)} ${lengthUnit()} ${part.name}`
                : `${figure(part.count)} × ${part.name}`,
            )
            .join(", ")}
          ; {figure(chosen.hours)} h
        </p>
      )}
      <ul>
        {link.options.map((option, place) => (
          <li
            key={option.name}
            data-chosen={place === link.chosen || undefined}
            data-fails={option.why_not !== "" || undefined}
          >
            <span>{option.name}</span>
            <span>
              {option.loss_db != null &&
                option.allowed_db != null &&
                w.loss(option.loss_db.toFixed(2), String(option.allowed_db))}
            </span>
            <i>{option.why_not || money(option.total_minor, settings.currency)}</i>
          </li>
        ))}
      </ul>
    </article>
  );
}

const Section = styled.section`
  article { border-top: 1px solid var(--ink); padding: 6px 0 10px; display: grid; gap: 4px; }
  h3 { font-size: 13.5px; font-weight: 600; }
  input { background: none; border: 0; border-bottom: 1px dotted var(--faint); width: 9ch; padding: 0 1px; appearance: none; text-align: right; }
  .chosen { display: flex; gap: 4px 12px; align-items: baseline; flex-wrap: wrap; }
  .chosen em { font: 14px var(--voice); color: var(--clay); }
  .parts { color: var(--faint); }
  ul { border-top: 1px solid var(--rule); margin-top: 4px; }
  li { display: grid; grid-template-columns: minmax(0, 1fr) 120px minmax(0, 1fr); gap: 10px; border-bottom: 1px solid var(--rule); padding: 1px 0; }
  li > i { font-style: normal; text-align: right; }
  li[data-chosen] { font-weight: 600; }
  li[data-fails] { color: var(--faint); }
`;
