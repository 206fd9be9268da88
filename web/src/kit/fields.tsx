import { parseDate } from "@internationalized/date";
import { useEffect, useRef, useState } from "react";
import {
  Button,
  DateField,
  DateInput,
  DateSegment,
  Dialog,
  DialogTrigger,
  I18nProvider,
  Popover,
} from "react-aria-components";
import styled from "styled-components";
import { exact, length, toMetres, typedFigure } from "./figures";
import { Tick } from "./Tick";

/** What a value is by the time that something awaited has come: a refused edit may have brought another one. */
function useLatest<T>(value: T) {
  const latest = useRef(value);
  latest.current = value;
  return latest;
}

/** A text that is typed where it stands; it is kept on leaving, Esc takes it back. */
export function Text(props: {
  label: string;
  value: string;
  placeholder?: string;
  most?: number;
  list?: string;
  set: (value: string) => Promise<boolean>;
}) {
  const [text, setText] = useState(props.value);
  useEffect(() => setText(props.value), [props.value]);
  const now = useLatest(props.value);
  const commit = async () => {
    if (text !== props.value && !(await props.set(text))) setText(now.current);
  };
  return (
    <input
      aria-label={props.label}
      value={text}
      list={props.list}
      maxLength={props.most ?? 200}
      title={text}
      placeholder={props.placeholder}
      onChange={(event) => setText(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setText(props.value);
      }}
    />
  );
}

/** Several lines of text, kept on leaving. */
export function Paragraph(props: { label: string; value: string; set: (value: string) => Promise<boolean> }) {
  const [text, setText] = useState(props.value);
  useEffect(() => setText(props.value), [props.value]);
  const now = useLatest(props.value);
  const commit = async () => {
    if (text !== props.value && !(await props.set(text))) setText(now.current);
  };
  return (
    <Area
      aria-label={props.label}
      rows={2}
      maxLength={2000}
      value={text}
      placeholder={props.label}
      onChange={(event) => setText(event.target.value)}
      onBlur={commit}
    />
  );
}

/** A number with a unit of its own, or a length that the project may write in feet; marked while it is none. */
export function Amount(props: {
  label: string;
  value: number | null;
  usual?: number;
  powered?: boolean;
  metres?: boolean;
  least?: number;
  most?: number;
  set: (value: number | null) => Promise<boolean>;
}) {
  const write = props.metres ? (value: number) => length(value, 2) : exact;
  const shown = props.value === null ? "" : write(props.value);
  const [text, setText] = useState(shown);
  const [odd, setOdd] = useState(false);
  const now = useLatest(shown);
  useEffect(() => setText(shown), [shown]);
  const commit = async () => {
    if (text.trim() === shown) {
      setOdd(false);
      return;
    }
    const typed = text.trim() === "" ? null : typedFigure(text);
    const value = typed !== null && props.metres ? toMetres(typed) : typed;
    const wrong =
      value !== null &&
      !(Number.isFinite(value) && value >= (props.least ?? 0) && value <= (props.most ?? Number.POSITIVE_INFINITY));
    setOdd(wrong);
    if (!wrong && !(await props.set(value))) setText(now.current);
  };
  return (
    <input
      className="r"
      inputMode="decimal"
      aria-label={props.label}
      aria-invalid={odd || undefined}
      data-power={props.powered || undefined}
      value={text}
      placeholder={props.usual === undefined ? "–" : `~${write(props.usual)}`}
      onChange={(event) => setText(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setText(shown);
      }}
    />
  );
}

/** A date, typed year, month, day as it is written everywhere. */
export function Day(props: { label: string; value: string | null; set: (value: string | null) => Promise<boolean> }) {
  return (
    <I18nProvider locale="en-CA">
      <DateField
        aria-label={props.label}
        value={props.value ? parseDate(props.value) : null}
        minValue={EARLIEST}
        maxValue={LATEST}
        onChange={(day) => {
          if (!day || (day.compare(EARLIEST) >= 0 && day.compare(LATEST) <= 0)) props.set(day?.toString() ?? null);
        }}
      >
        <Segments>{(segment) => <DateSegment segment={segment} />}</Segments>
      </DateField>
    </I18nProvider>
  );
}

const EARLIEST = parseDate("1990-01-01");
const LATEST = parseDate("2200-01-01");

const Segments = styled(DateInput)`
  display: inline-flex; border-bottom: 1px dotted var(--faint); font-variant-numeric: tabular-nums;
  [data-placeholder] { color: var(--faint); }
  [data-focused] { background: var(--earth); outline: 2px solid var(--slate); }
`;

/** Some of many, ticked on a sheet. */
export function Some<Key extends number | string>(props: {
  label: string;
  none: string;
  value: readonly Key[];
  options: readonly { id: Key; name: string }[];
  set: (value: Key[]) => Promise<boolean>;
}) {
  const chosen = props.options.filter((option) => props.value.includes(option.id));
  const shown = chosen.map((option) => option.name).join(", ") || props.none;
  return (
    <DialogTrigger>
      <SomeButton aria-label={`${props.label}: ${shown}`}>{shown}</SomeButton>
      <Sheet placement="bottom start">
        <Dialog aria-label={props.label}>
          {props.options.map((option) => (
            <Tick
              key={option.id}
              value={props.value.includes(option.id)}
              set={(wanted) =>
                props.set(wanted ? [...props.value, option.id] : props.value.filter((one) => one !== option.id))
              }
            >
              {option.name}
            </Tick>
          ))}
        </Dialog>
      </Sheet>
    </DialogTrigger>
  );
}

const Area = styled.textarea`
  background: none; border: 0; border-bottom: 1px solid var(--rule); font: inherit; color: inherit; width: 100%; resize: vertical;
  &::placeholder { color: var(--faint); opacity: 1; }
`;

const SomeButton = styled(Button)`
  background: none; border: 0; border-bottom: 1px dotted var(--ink); padding: 0; cursor: pointer; text-align: left;
  max-width: 260px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; vertical-align: bottom;
`;

const Sheet = styled(Popover)`
  background: var(--sheet); border: 1px solid var(--ink); max-height: 60vh; overflow: auto;
  section { padding: 8px 14px; outline: none; display: grid; gap: 3px; }
`;
