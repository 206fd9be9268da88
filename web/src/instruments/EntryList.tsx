import { type CSSProperties, type FormEvent, type ReactNode, useState } from "react";
import styled from "styled-components";
import type { ListName } from "../api/client";
import { addTo, changeIn } from "../api/edits";
import { useWork } from "../api/work";
import { Choice, ChoiceButton, Chooser } from "../kit/Choice";
import { Amount, Day, Some, Text } from "../kit/fields";
import { Heading } from "../kit/parts";
import { Tick } from "../kit/Tick";
import { words } from "../words";

const w = words.entries;

type Options = readonly (readonly [string, ReactNode])[];

/** A field of an entry: what stands before and after it, and how it is typed. */
export interface EntryField<Row> {
  key: keyof Row & string;
  before?: string;
  after?: string;
  /** The field is shown only when this holds. */
  when?: (row: Row) => boolean;
  as:
    | { type: "text"; width?: number; placeholder?: string; strong?: boolean }
    | {
        type: "number";
        width?: number;
        least?: number;
        most?: number;
        usual?: (row: Row) => number | undefined;
        scale?: number;
      }
    | { type: "choice"; options: Options; numeric?: boolean }
    | { type: "tick"; usual?: (row: Row) => boolean | undefined }
    | { type: "day" }
    | { type: "rooms"; none: string }
    | { type: "targets"; none: string }
    | { type: "kinds"; none: string }
    | { type: "stages"; none: string };
}

interface Props<Row> {
  title: string;
  lead?: string;
  list: ListName;
  rows: readonly Row[];
  name: (row: Row) => string;
  fields: readonly EntryField<Row>[];
  /** The unit of the entry's figure, where it depends on the entry. */
  units?: (row: Row) => string;
  /** A faint line under an entry. */
  below?: (row: Row) => string;
  children?: ReactNode;
  /** How a new entry starts: from a typed name, or from one of several kinds. */
  add:
    | { placeholder: string; values: (text: string) => Record<string, unknown> }
    | { label: string; options: Options; values: (key: string) => Record<string, unknown> };
}

/** A list of the brief: every entry a line of words and fields, changed where it stands. */
export function EntryList<Row extends { id: number }>(props: Props<Row>) {
  const { edit } = useWork();
  return (
    <Section aria-label={props.title}>
      <Heading>
        <h2>{props.title}</h2>
        {props.lead && <span title={props.lead}>{props.lead}</span>}
      </Heading>
      <ul>
        {props.rows.map((row) => (
          <li key={row.id}>
            {props.fields.map(
              (field) => (field.when?.(row) ?? true) && <OneField key={field.key} {...props} field={field} row={row} />,
            )}
            {props.below?.(row) && <small>{props.below(row)}</small>}
            <button
              type="button"
              className="away"
              aria-label={w.remove(props.name(row))}
              title={w.remove(props.name(row))}
              onClick={() => edit({ type: "remove_entry", list: props.list, id: row.id })}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      <Add {...props} />
      {props.children}
    </Section>
  );
}

function OneField<Row extends { id: number }>(props: Props<Row> & { field: EntryField<Row>; row: Row }) {
  const { edit, outcome, kinds } = useWork();
  const { field, row } = props;
  const label = `${field.before ?? field.after ?? field.key}: ${props.name(row)}`;
  const value = row[field.key];
  const set = (next: unknown) => edit(changeIn(props.list, row.id, { [field.key]: next }));
  const shown = () => {
    switch (field.as.type) {
      case "text":
        return <Text label={label} value={String(value ?? "")} placeholder={field.as.placeholder} set={set} />;
      case "number": {
        const { scale = 1, usual, least, most } = field.as;
        return (
          <Amount
            label={label}
            value={value == null ? null : Number(value) / scale}
            usual={usual?.(row)}
            least={least}
            most={most}
            set={(next) => set(next === null ? null : scale === 1 ? next : Math.round(next * scale))}
          />
        );
      }
      case "choice": {
        const { numeric } = field.as;
        return (
          <Choice
            label={label}
            value={value == null ? "" : String(value)}
            options={field.as.options}
            set={(next) => set(next === "" ? null : numeric ? Number(next) : next)}
          />
        );
      }
      case "tick":
        return <Tick label={label} value={Boolean(value ?? field.as.usual?.(row))} set={set} />;
      case "day":
        return <Day label={label} value={value == null ? null : String(value)} set={set} />;
      case "kinds":
        return (
          <Some
            label={label}
            none={field.as.none}
            value={(value as unknown as string[]) ?? []}
            options={kinds.map((kind) => ({ id: kind.key as string, name: kind.name }))}
            set={set}
          />
        );
      case "stages":
        return (
          <Some
            label={label}
            none={field.as.none}
            value={(value as unknown as string[]) ?? []}
            options={Object.entries(words.labour.stage).map(([key, name]) => ({ id: key, name }))}
            set={set}
          />
        );
      case "rooms":
      case "targets":
        return (
          <Some
            label={label}
            none={field.as.none}
            value={(value as unknown as number[]) ?? []}
            options={outcome.project[field.as.type] ?? []}
            set={set}
          />
        );
    }
  };
  const width = "width" in field.as ? field.as.width : undefined;
  return (
    <span
      className="field"
      data-type={field.as.type}
      data-strong={(field.as.type === "text" && field.as.strong) || undefined}
      style={width ? ({ "--width": `${width}ch` } as CSSProperties) : undefined}
    >
      {field.before && <i>{field.before}</i>}
      {shown()}
      {field.after && <i>{field.after}</i>}
      {field.as.type === "number" && !field.after && props.units && <i>{props.units(row)}</i>}
    </span>
  );
}

function Add<Row extends { id: number }>({ add, list, title }: Props<Row>) {
  const { edit } = useWork();
  const [text, setText] = useState("");
  if ("options" in add) {
    return (
      <Chooser
        label={`${title}: ${add.label}`}
        value={null}
        placeholder={add.label}
        options={add.options}
        set={(key) => edit(addTo(list, add.values(key)))}
      />
    );
  }
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const name = text.trim();
    if (name && (await edit(addTo(list, add.values(name))))) setText("");
  };
  return (
    <form onSubmit={submit}>
      <input
        className="add"
        aria-label={`${title}: ${add.placeholder}`}
        placeholder={add.placeholder}
        value={text}
        maxLength={200}
        onChange={(event) => setText(event.target.value)}
      />
    </form>
  );
}

const Section = styled.section`
  li { position: relative; display: flex; flex-wrap: wrap; gap: 1px 14px; align-items: baseline; padding: 5px 20px 5px 0; border-bottom: 1px solid var(--rule); }
  ul { border-top: 1px solid var(--ink); }
  .field { display: inline-flex; gap: 5px; align-items: baseline; min-width: 0; white-space: nowrap; }
  .field > i { font-style: normal; color: var(--faint); }
  input:not([type="checkbox"]), .add {
    background: none; border: 0; border-bottom: 1px dotted var(--faint); border-radius: 0; padding: 0 1px; min-width: 0; appearance: none;
  }
  .field[data-type="text"] input { width: var(--width, 14ch); text-overflow: ellipsis; }
  .field[data-type="number"] input { width: var(--width, 6ch); text-align: right; }
  .field[data-type="day"] input { width: 13ch; }
  .field[data-strong] input { font-weight: 600; border-bottom-color: transparent; }
  input:hover { border-bottom: 1px solid var(--ink); }
  input::placeholder { color: var(--faint); opacity: 1; }
  ${ChoiceButton} { max-width: 30ch; }
  [aria-invalid] { color: var(--clay); text-decoration: underline wavy; }
  li > small { width: 100%; color: var(--faint); font-size: 12.5px; }
  > section { margin-top: 10px; }
  .away {
    position: absolute; right: 0; top: 4px; background: none; border: 0; cursor: pointer; color: var(--clay); padding: 0 4px; font-size: 15px; line-height: 1.3;
  }
  .add { color: var(--slate); border: 0; padding: 5px 1px; width: 100%; max-width: 34ch; }
  input.add::placeholder { color: var(--slate); }
  form { display: contents; }
`;
