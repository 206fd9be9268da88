import type { ReactNode } from "react";
import styled from "styled-components";
import { ChoiceButton } from "./Choice";

/** A sheet of labelled lines beside a drawing. */
export const Sheet = styled.section`
  display: grid; gap: 0; min-width: 0;
  .line { display: grid; grid-template-columns: 88px minmax(0, 1fr); gap: 8px; align-items: baseline; padding: 3px 0; border-bottom: 1px solid var(--rule); }
  .line > span:first-child { color: var(--faint); }
  .line > span:last-child { display: flex; gap: 6px; align-items: baseline; min-width: 0; }
  .line i { font-style: normal; color: var(--faint); white-space: nowrap; }
  input:not([type="checkbox"]):not([type="file"]) {
    background: none; border: 0; border-bottom: 1px dotted var(--faint); border-radius: 0; padding: 0 1px; min-width: 0; width: 100%; text-overflow: ellipsis;
  }
  .line > span:last-child > :has(> ${ChoiceButton}) { flex: 1; min-width: 0; }
  ${ChoiceButton} { width: 100%; }
  input.r { text-align: right; max-width: 9ch; }
  input[type="date"] { width: auto; }
  input::placeholder { color: var(--faint); opacity: 1; }
  [data-power] { color: var(--clay); }
  [aria-invalid] { color: var(--clay); text-decoration: underline wavy; }
  .acts { display: flex; gap: 14px; padding-top: 6px; flex-wrap: wrap; }
`;

/** One labelled line. */
export function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="line">
      <span>{label}</span>
      <span>{children}</span>
    </div>
  );
}
