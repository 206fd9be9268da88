import styled from "styled-components";
import { type Bundle, data, http } from "../../api/client";
import { useOfRevision, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { SheetWord } from "../../instruments/SheetWord";
import { figure, length, lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { Sided } from "../../kit/sided";
import { TickedLine } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { Labour, Terms } from "./Terms";

const w = words.pulls;

/** What is pulled together, in what order, with marks and labels; ticked off as it lies in its place. */
export function PullView() {
  const { outcome } = useWork();
  const pulls = useOfRevision("pulls", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/pulls", { params: { path }, signal })),
  );
  if (!pulls) return null;
  const { bundles, ways } = pulls;
  const nameOf = (number: number) => outcome.project.paths?.find((path) => path.id === number)?.name ?? "";
  const cables = bundles.flatMap((bundle) => bundle.cables);
  return (
    <Surface>
      <section aria-label={w.title}>
        <Heading>
          <h2>{w.title}</h2>
          <span>{w.lead(cables.filter((cable) => cable.pulled).length, cables.length, figure(pulls.hours))}</span>
          <SheetWord sheet="pulls" />
        </Heading>
        {bundles.length === 0 && <p className="said">{w.none}</p>}
        {ways.length > 0 && (
          <p className="way">
            {w.first}: {ways.map((way) => `${nameOf(way.path_id)} ${figure(way.hours)} h`).join(", ")}
          </p>
        )}
        {bundles.map((bundle, place) => (
          <OneBundle key={bundle.cables[0]?.drop_id} bundle={bundle} number={place + 1} />
        ))}
      </section>
      <div className="beside">
        <Terms />
        <Labour />
        <Findings verb="reach" />
      </div>
    </Surface>
  );
}

function OneBundle({ bundle, number }: { bundle: Bundle; number: number }) {
  const { outcome, edit, kinds } = useWork();
  const { closets, drops, rooms } = outcome.project;
  const closet = closets.find((one) => one.id === bundle.closet_id)?.name ?? "";
  const unit = lengthUnit();
  const where = (dropId: number) => {
    const drop = drops.find((one) => one.id === dropId);
    const kind = kinds.find((one) => one.key === drop?.kind)?.name.toLowerCase();
    return `${rooms.find((room) => room.id === drop?.room_id)?.name}, ${kind}`;
  };
  return (
    <article aria-label={w.bundle(number, closet)}>
      <h3>
        {w.bundle(number, closet)}
        <span>{w.cables(bundle.cables.length)}</span>
        <span>{w.hours(figure(bundle.hours), figure(bundle.alone_h))}</span>
      </h3>
      <p className="way">{bundle.way.length ? bundle.way.join(" → ") : w.loose}</p>
      {bundle.tools.length > 0 && (
        <p className="faint">
          {w.tools}: {bundle.tools.join(", ")}
        </p>
      )}
      <ul className="said">
        {bundle.cautions.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
        {bundle.strings.length > 0 && <li>{w.string(bundle.strings.join(", "))}</li>}
      </ul>
      <div className="cables">
        <div className="head">
          <i />
          <span>{w.head.label}</span>
          <span>{w.head.to}</span>
          <span>{w.head.box}</span>
          <span className="r">{w.head.cut}</span>
          <span className="r">{w.head.marks}</span>
          <span>{w.head.leaves}</span>
        </div>
        {bundle.cables.map((cable) => (
          <TickedLine
            key={cable.drop_id}
            label={`${w.pulled(cable.label)}: ${where(cable.drop_id)}`}
            value={cable.pulled}
            set={(pulled) => edit({ type: "change_drops", ids: [cable.drop_id], changes: { pulled } })}
          >
            <b>{cable.label}</b>
            <span>{where(cable.drop_id)}</span>
            <span className="box">{cable.box || cable.cable}</span>
            <span className="r">
              {length(cable.cut_m)} {unit}
            </span>
            <span className="r marks">
              {cable.from_m != null && cable.to_m != null && `${length(cable.from_m)} – ${length(cable.to_m)} ${unit}`}
            </span>
            <span className="leaves">
              {cable.leaves_at && w.leaves(`${length(cable.leaves_m)} ${unit}`, cable.leaves_at)}
            </span>
          </TickedLine>
        ))}
      </div>
    </article>
  );
}

const Surface = styled(Sided)`
  > section { padding: 6px 14px 20px 16px; display: grid; gap: 14px; align-content: start; min-width: 0; }
  article { border-top: 1px solid var(--ink); padding-top: 6px; display: grid; gap: 3px; min-width: 0; }
  h3 { font-size: 13.5px; font-weight: 650; display: flex; gap: 4px 14px; align-items: baseline; flex-wrap: wrap; }
  h3 span { font-weight: 400; color: var(--faint); }
  h3 span:last-child { margin-left: auto; }
  .way { font-weight: 500; }
  .faint { color: var(--faint); }
  .said { font: 13.5px/1.35 var(--voice); max-width: 78ch; }
  ul.said { columns: 2; column-gap: 28px; max-width: none; }
  ul.said li { break-inside: avoid; padding-left: 12px; text-indent: -12px; }
  ul.said li::before { content: "– "; }
  .cables { border-top: 1px solid var(--rule); margin-top: 4px; }
  .head, label { display: grid; grid-template-columns: 20px minmax(0, 1.1fr) minmax(0, 1.5fr) minmax(0, 1.5fr) 58px 96px minmax(0, 1.6fr); gap: 8px; align-items: baseline; padding: 2px 0; border-bottom: 1px solid var(--rule); }
  .head { color: var(--faint); }
  label { cursor: pointer; }
  label:hover { background: var(--earth); }
  label > * { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  b { font-weight: 600; }
  .r { text-align: right; }
  .box, .leaves, .marks { color: var(--faint); }
  label[data-selected] b, label[data-selected] span { color: var(--faint); text-decoration: line-through; text-decoration-thickness: 1px; }
  ${NARROW} {
    ul.said { columns: 1; }
    .head { display: none; }
    label { grid-template-columns: 28px minmax(0, 1fr) 74px; grid-auto-flow: row; padding: 8px 0; row-gap: 1px; }
    label > svg { width: 20px; height: 20px; grid-row: span 2; align-self: center; }
    label > span:nth-of-type(2) { grid-column: 2; grid-row: 2; }
    label > .r:not(.marks) { grid-column: 3; grid-row: 1; }
    label > .marks { grid-column: 3; grid-row: 2; }
    label > .box { grid-column: 2 / 4; grid-row: 3; }
    label > .leaves { grid-column: 2 / 4; grid-row: 4; white-space: normal; }
  }
`;
