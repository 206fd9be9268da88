import styled from "styled-components";
import { data, http } from "../../api/client";
import { useOfRevision, useWork } from "../../api/work";
import { figure, length, lengthUnit } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { words } from "../../words";

const w = words.cable;

/** What goes in beside the cable, group by group. */
export function CableParts() {
  const { id } = useWork();
  const parts = useOfRevision("cable-parts", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/cable-parts", { params: { path }, signal })),
  );
  if (!parts?.length) return null;
  const groups = (Object.keys(w.groups) as (keyof typeof w.groups)[]).filter((group) =>
    parts.some((part) => part.group === group),
  );
  return (
    <Parts aria-label={w.parts}>
      <Heading>
        <h2>{w.parts}</h2>
        <span>{w.partsLead}</span>
        <a href={`/api/projects/${id}/cable-parts.csv`} aria-label={`${w.parts}: CSV`}>
          CSV
        </a>
      </Heading>
      {groups.map((group) => (
        <div key={group}>
          <h3>{w.groups[group]}</h3>
          <ul>
            {parts
              .filter((part) => part.group === group)
              .map((part) => (
                <li key={part.name}>
                  <b>{part.unit === "m" ? `${length(part.count, 0)} ${lengthUnit()}` : figure(part.count)}</b>
                  <span>{part.name}</span>
                  <i>{part.why}</i>
                </li>
              ))}
          </ul>
        </div>
      ))}
    </Parts>
  );
}

const Parts = styled.section`
  display: grid; gap: 6px;
  > div:not(:first-child) { display: grid; grid-template-columns: 120px minmax(0, 1fr); gap: 12px; border-top: 1px solid var(--ink); padding-top: 3px; }
  h3 { font-size: 13.5px; font-weight: 550; }
  li { display: grid; grid-template-columns: 62px minmax(0, 1.2fr) minmax(0, 1fr); gap: 10px; border-bottom: 1px solid var(--rule); padding: 1px 0; }
  b { font-weight: 550; text-align: right; }
  i { font-style: normal; color: var(--faint); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
`;
