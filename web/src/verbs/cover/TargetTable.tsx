import styled from "styled-components";
import type { TargetLine, ViewLine } from "../../api/client";
import { useWork } from "../../api/work";
import { figure, length, lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";

const w = words.targets;

/** Every target, what is wanted there and what it gets. */
export function TargetTable(props: {
  targets: readonly TargetLine[];
  views: readonly ViewLine[];
  chosen: number | null;
  choose: (target: number) => void;
}) {
  const { id } = useWork();
  const names = new Map(props.views.map((view) => [view.drop_id, view.name]));
  const met = props.targets.filter((target) => target.met).length;
  return (
    <Section aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>{props.targets.length ? w.met(met, props.targets.length) : w.none}</span>
        {props.targets.length > 0 && (
          <span>
            <a href={`/api/projects/${id}/targets.csv`}>{w.csv}</a>{" "}
            <a href={`/api/projects/${id}/targets.xlsx`}>{w.xlsx}</a>
          </span>
        )}
      </Heading>
      <ul>
        {props.targets.map((target) => {
          const best = target.sightings[0];
          return (
            <li key={target.id}>
              <button
                type="button"
                aria-pressed={props.chosen === target.id}
                data-met={target.met || undefined}
                onClick={() => props.choose(target.id)}
              >
                <b>{target.name}</b>
                <span>{`${words.cover.details[target.wanted]} ${figure(target.wanted_px_m)} ${w.pxm}`}</span>
                <em>
                  {target.met
                    ? w.metBy(target.met_by.map((drop) => names.get(drop)).join(", "))
                    : `${w.notMet}${target.best ? `, ${words.cover.details[target.best]}` : ""}`}
                </em>
                <i>{best ? `${figure(best.px_m)} ${w.pxm}` : "–"}</i>
                <i>{best ? `${length(best.distance_m)} ${lengthUnit()}` : ""}</i>
                <i>{best ? `${steepness(best.steep_deg)}` : ""}</i>
              </button>
            </li>
          );
        })}
      </ul>
    </Section>
  );
}

/** How steeply something is looked down on, or up to. */
export const steepness = (degrees: number) =>
  degrees < 0 ? `${figure(-degrees)}${w.up}` : `${figure(degrees)}${w.steep}`;

const Section = styled.section`
  min-height: 0; display: grid; grid-template-rows: auto minmax(0, 1fr);
  ul { overflow: auto; border-top: 1px solid var(--ink); }
  li { border-bottom: 1px solid var(--rule); }
  button {
    display: grid; grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr) minmax(0, 1.6fr) 84px 56px 66px; gap: 10px; width: 100%;
    background: none; border: 0; padding: 3px 2px; text-align: left; cursor: pointer; align-items: baseline;
  }
  button > * { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-style: normal; }
  b { font-weight: 550; }
  i { text-align: right; color: var(--faint); }
  em { color: var(--clay); }
  button[data-met] em { color: var(--moss); }
  button:hover, button[aria-pressed="true"] { background: var(--earth); }
  ${NARROW} { ul { max-height: 50vh; } button { grid-template-columns: minmax(0, 1fr) minmax(0, 1.3fr); } button > :nth-child(2), i { display: none; } }
`;
