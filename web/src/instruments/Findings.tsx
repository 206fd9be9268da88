import { useNavigate } from "react-router";
import styled from "styled-components";
import type { Edit, Finding } from "../api/client";
import { useWork } from "../api/work";
import { Heading, Word } from "../kit/parts";
import { words } from "../words";

const w = words.findings;
/** Verbs whose first view draws the drops that a finding points to. */
const SHOWN_ON: readonly Finding["verb"][] = ["cover", "reach"];

/** Each finding: its weight as a mark, a sentence, the place it points to, and what would settle it; those of the verb first. */
export function Findings({ verb }: { verb?: Finding["verb"] }) {
  const { outcome } = useWork();
  const all = outcome.balance.findings;
  const findings = verb ? [...all].sort((a, b) => Number(b.verb === verb) - Number(a.verb === verb)) : all;
  return (
    <section aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>{findings.length ? w.open(findings.length) : w.none}</span>
      </Heading>
      <List>
        {findings.map((finding) => (
          <Line key={finding.key} finding={finding} />
        ))}
      </List>
    </section>
  );
}

function Line({ finding }: { finding: Finding }) {
  const { id, edit, outcome, choose } = useWork();
  const navigate = useNavigate();
  const { settle } = finding;
  const act = () => {
    if (settle?.edit) edit(settle.edit as Edit);
    else if (settle?.verb) navigate(`/projects/${id}/${settle.verb}`);
  };
  const show = () => {
    const first = outcome.project.drops.find((drop) => drop.id === finding.drop_ids[0]);
    choose({
      drops: new Set(finding.drop_ids),
      roomId: first?.room_id ?? null,
      kind: null,
      path: finding.path_id ?? null,
    });
    navigate(`/projects/${id}/${SHOWN_ON.includes(finding.verb) ? finding.verb : "walk"}`);
  };
  return (
    <li data-finding tabIndex={-1} data-weight={finding.weight}>
      <Mark weight={finding.weight} />
      <p>
        {finding.drop_ids.length > 0 || finding.path_id != null ? (
          <Subject type="button" onClick={show} title={w.show}>
            {finding.subject}
          </Subject>
        ) : (
          <strong>{finding.subject}</strong>
        )}{" "}
        <span>{finding.text}</span> {settle && <Word onPress={act}>{settle.label}</Word>}
      </p>
    </li>
  );
}

/** A broken edge, a bending beam, lines of writing: the weight by shape, not by colour alone. */
export function Mark({ weight }: { weight: Finding["weight"] }) {
  const shapes = {
    breaks: <path d="M1 11V3l3 4 2-5 2 6 3-4v7z" fill="var(--clay)" />,
    strains: <path d="M1 3.5q5 5 10 0M1 3.5v6M11 3.5v6" fill="none" stroke="var(--ochre)" strokeWidth="1.8" />,
    note: <path d="M1 3h10M1 6.5h10M1 10h6" fill="none" stroke="var(--slate)" strokeWidth="1.4" />,
  };
  return (
    <svg width="12" height="13" role="img" aria-label={w.weights[weight]}>
      {shapes[weight]}
    </svg>
  );
}

const List = styled.ul`
  li { display: grid; grid-template-columns: 22px 1fr; padding: 8px 0 9px; border-bottom: 1px solid var(--rule); }
  li > svg { margin-top: 4px; }
  p { font: 15px/1.35 var(--voice); }
  p > strong { font: 650 13.5px var(--data); }
  p > button { font-family: var(--data); font-size: 13.5px; white-space: normal; }
`;

const Subject = styled.button`
  background: none; border: 0; padding: 0; cursor: pointer; font-weight: 650; text-align: left;
  &:hover { text-decoration: underline; }
`;
