import type { ReactNode } from "react";
import { Button, Dialog, DialogTrigger, Popover } from "react-aria-components";
import styled from "styled-components";
import { NARROW } from "./theme";

/** A word that acts: underlined, no box around it. */
export const Word = styled(Button)`
  background: none; border: 0; padding: 1px 0; cursor: pointer; color: var(--slate); text-decoration: underline;
  text-decoration-thickness: 1px; text-underline-offset: 2.5px; text-align: inherit; white-space: nowrap;
  &[data-hovered] { text-decoration-thickness: 2px; }
  &[data-disabled] { color: var(--faint); text-decoration: none; cursor: default; }
`;

/** A term that can be changed: dotted underline, opens a sheet. */
const TermButton = styled(Button)`
  background: none; border: 0; border-bottom: 1px dotted var(--ink); padding: 0 0 1px; cursor: pointer;
  font-weight: 550; white-space: nowrap;
  &[data-hovered], &[aria-expanded="true"] { border-bottom-style: solid; }
`;

const Sheet = styled(Popover)`
  background: var(--sheet); border: 1px solid var(--ink); max-width: min(420px, 94vw); max-height: 80vh; overflow: auto;
`;

const SheetBody = styled(Dialog)`
  padding: 12px 16px 14px; outline: none; display: grid; gap: 7px;
  > input { background: none; border: 0; border-bottom: 1px solid var(--faint); border-radius: 0; padding: 2px 1px; min-width: 0; }
  > input::placeholder { color: var(--faint); opacity: 1; }
`;

/** A term of a sentence and the sheet in which it is changed. */
export function Term(props: { text: ReactNode; label: string; children: ReactNode }) {
  return (
    <DialogTrigger>
      <TermButton>{props.text}</TermButton>
      <Sheet placement="bottom start">
        <SheetBody aria-label={props.label}>
          <h2>{props.label}</h2>
          {props.children}
        </SheetBody>
      </Sheet>
    </DialogTrigger>
  );
}

/** A heading with its summary in faint ink on the same line. */
export const Heading = styled.div`
  display: flex; align-items: baseline; gap: 10px; min-height: 24px; white-space: nowrap;
  > span { color: var(--faint); overflow: hidden; text-overflow: ellipsis; }
  > span > i { font-style: normal; }
  > :last-child:not(h2):not(span) { margin-left: auto; }
  ${NARROW} { flex-wrap: wrap; > span { white-space: normal; } > span > i { display: none; } > :last-child:not(h2):not(span) { margin-left: 0; } }
`;

/** A field on paper: a rule under it, nothing around it. */
export const Field = styled.input`
  background: none; border: 0; border-bottom: 1px solid var(--faint); border-radius: 0; padding: 3px 2px; min-width: 0;
  &::placeholder { color: var(--faint); opacity: 1; }
`;

/** A labelled line of a sheet. */
export const Labelled = styled.label`
  display: flex; justify-content: space-between; align-items: baseline; gap: 14px; line-height: 1.2;
  > input {
    width: 110px; text-align: right; padding-block: 1px; background: none; border: 0; border-bottom: 1px solid var(--faint);
    border-radius: 0;
  }
`;

/** The views of a verb: their names over them; a drawing fills the height. */
export const Views = styled.div`
  min-height: 100%; display: grid; grid-template-rows: auto minmax(0, 1fr);
  @media (min-width: 861px) { &[data-drawing] { height: 100%; } }
  > nav { display: flex; gap: 18px; padding: 7px 16px 0; }
  > nav a { color: var(--slate); text-decoration: none; border-bottom: 2px solid transparent; }
  > nav a:hover { border-bottom-color: var(--faint); }
  > nav a.active { color: var(--ink); font-weight: 650; border-bottom-color: var(--clay); }
  ${NARROW} { > nav { flex-wrap: wrap; gap: 4px 16px; } > nav a { padding: 6px 0; } }
  @media print { > nav { display: none; } }
`;
