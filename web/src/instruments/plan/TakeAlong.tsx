import styled from "styled-components";
import { useWork } from "../../api/work";
import { words } from "../../words";

const w = words.reach;
const FORMS = ["svg", "dxf"] as const;

/** The drawing on screen as a file: SVG at a round scale, DXF in metres. */
export function TakeAlong(
  props: { of: "section" } | { of: "plan" | "sight"; floor: number } | { of: "signal"; floor: number; band: string },
) {
  const { id } = useWork();
  const name = props.of === "section" ? w.sectionAs : w.planAs;
  const [stem, asked] =
    props.of === "section"
      ? ["section", ""]
      : props.of === "signal"
        ? ["signal/plan", `?floor_id=${props.floor}&band=${props.band}`]
        : [`floors/${props.floor}/plan`, props.of === "sight" ? "?sight=true" : ""];
  return (
    <Links>
      {FORMS.map((form) => (
        <a key={form} href={`/api/projects/${id}/${stem}.${form}${asked}`} aria-label={name(form.toUpperCase())}>
          {form.toUpperCase()}
        </a>
      ))}
    </Links>
  );
}

const Links = styled.i`
  font-style: normal; display: flex; gap: 10px; margin-left: auto;
  a { color: var(--slate); }
`;
