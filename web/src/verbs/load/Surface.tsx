import styled from "styled-components";
import { Sided } from "../../kit/sided";

/** The page of a view of Load: tables of figures, and a column beside them. */
export const Surface = styled(Sided)`
  min-height: 100%;
  > .beside { margin-top: 0; }
  .main { padding: 10px 14px 20px 16px; display: grid; gap: 20px; align-content: start; min-width: 0; }
  .main > section { min-width: 0; }
  .said { font: 14px/1.4 var(--voice); max-width: 72ch; }
  .faint { color: var(--faint); padding-top: 4px; }
  .wide { overflow-x: auto; }
  table { width: 100%; min-width: 760px; }
  .fits table { min-width: 0; }
  th { text-align: left; font-weight: 400; color: var(--faint); padding: 2px 8px 2px 0; white-space: nowrap; }
  thead th { border-bottom: 1px solid var(--ink); }
  tbody th { color: var(--ink); white-space: normal; min-width: 168px; }
  tbody th button { background: none; border: 0; padding: 0; text-align: left; cursor: pointer; }
  tbody th button:hover { text-decoration: underline; }
  tbody th small { color: var(--faint); font-size: 12.5px; margin-left: 6px; }
  tbody th em { display: block; color: var(--clay); font: italic 13px/1.3 var(--voice); }
  td { padding: 2px 8px 2px 0; white-space: nowrap; }
  tbody th small { display: block; margin-left: 0; }
  td small { display: block; color: var(--faint); font-size: 12px; max-width: 34ch; overflow: hidden; text-overflow: ellipsis; }
  td i { font-style: normal; color: var(--faint); }
  tbody tr > * { border-bottom: 1px solid var(--rule); vertical-align: baseline; }
  tr[data-chosen] > * { background: var(--earth); }
  tr[data-fails] td { color: var(--clay); }
  tr.box th { padding-left: 14px; }
  .r { text-align: right; padding-right: 10px; }
  .own { font-weight: 650; }
  td input { background: none; border: 0; border-bottom: 1px dotted var(--faint); width: 6ch; text-align: right; padding: 0 1px; }
  td input::placeholder { color: var(--faint); opacity: 1; }
`;

/** Heads of columns of figures, each with what it means. */
export function FigureHeads<Key extends string>(props: {
  keys: readonly Key[];
  column: Readonly<Record<Key, string>>;
  why: Readonly<Record<Key, string>>;
}) {
  return props.keys.map((key) => (
    <th key={key} className="r" title={props.why[key]}>
      {props.column[key]}
    </th>
  ));
}
