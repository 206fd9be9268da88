import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { words } from "../words";
import { ChoiceButton, Chooser, type Option } from "./Choice";
import { Field, Word } from "./parts";
import { NARROW } from "./theme";

const w = words.table;
const LINES_SHOWN = 200;
/** The meaning of a value whose lines are left out. */
const LEAVE_OUT = "-";

export type Answers = Schemas["Answers"];
type Line = Schemas["ReadLine"] | Schemas["PriceLine"];

export const NOTHING_SAID: Answers = { meanings: [], mended: [], left_out: [] };

/** What is said about a table that came in, and how it is said: of a value for all lines, of one line, of one cell. */
export function useAnswers() {
  const [answers, setAnswers] = useState<Answers>(NOTHING_SAID);
  return {
    answers,
    forget: () => setAnswers(NOTHING_SAID),
    mean: (column: string, value: string, means: string) =>
      setAnswers((before) => ({
        ...before,
        meanings: [
          ...(before.meanings ?? []).filter((meant) => meant.column !== column || meant.value !== value),
          { column, value, means },
        ],
      })),
    mend: (line: number, column: string, text: string) =>
      setAnswers((before) => ({
        ...before,
        mended: [
          ...(before.mended ?? []).filter((cell) => cell.line !== line || cell.column !== column),
          { line, column, text },
        ],
      })),
    leaveOut: (line: number, out: boolean) =>
      setAnswers((before) => ({
        ...before,
        left_out: [...(before.left_out ?? []).filter((number) => number !== line), ...(out ? [line] : [])],
      })),
  };
}

type Say = ReturnType<typeof useAnswers>;

/** Every value that is not written as it would be here: what it is taken for, or what was said that it means. */
export function Values({ values, say }: { values: readonly Schemas["Value"][]; say: Say }) {
  if (!values.length) return null;
  return (
    <List>
      <h3>{w.values}</h3>
      <p>{w.valuesLead}</p>
      <ul>
        {values.map((value) => (
          <li key={`${value.column} ${value.value}`} data-open={!value.told || undefined}>
            <span>{value.head}</span>
            <b>{value.value}</b>
            <i>{w.onLines(value.lines)}</i>
            <Meaning value={value} set={(means) => say.mean(value.column, value.value, means)} />
          </li>
        ))}
      </ul>
    </List>
  );
}

function Meaning({ value, set }: { value: Schemas["Value"]; set: (means: string) => void }) {
  const label = w.means(value.head, value.value);
  if (!value.choices.length)
    return (
      <span className="typed">
        <Typed label={label} value={value.means} hint={value.told || w.say} set={set} />
        {value.means === LEAVE_OUT ? (
          <Word onPress={() => set("")}>{w.takeAgain}</Word>
        ) : (
          <Word onPress={() => set(LEAVE_OUT)}>{w.leaveOut}</Word>
        )}
      </span>
    );
  const known = value.choices.includes(value.means) || value.means === LEAVE_OUT || !value.means;
  const guess = value.means ? w.guessAgain : value.told ? w.guessed(value.told) : w.say;
  return (
    <Chooser
      label={label}
      value={value.means}
      options={[
        ["", guess],
        ...(known ? [] : [value.means]).concat(value.choices).map((choice): Option<string> => [choice, choice]),
        [LEAVE_OUT, w.leaveOutLines],
      ]}
      set={set}
    />
  );
}

/** A field whose text counts once it is left. */
function Typed(props: { label: string; value: string; hint?: string; set: (text: string) => void }) {
  const [text, setText] = useState<string | null>(null);
  const settle = () => {
    if (text !== null && text !== props.value) props.set(text);
    setText(null);
  };
  return (
    <Field
      aria-label={props.label}
      value={text ?? props.value}
      placeholder={props.hint}
      onChange={(event) => setText(event.target.value)}
      onBlur={settle}
      onKeyDown={(event) => event.key === "Enter" && settle()}
    />
  );
}

/** The lines of the table, those that want something first: each is mended where it stands, or left out. */
export function Lines(props: { lines: readonly Line[]; heads: Record<string, string>; say: Say; only?: boolean }) {
  const [open, setOpen] = useState<number | null>(null);
  const { say } = props;
  const wrong = props.lines.filter((line) => line.wrong.length > 0);
  const others = props.lines.filter((line) => !line.wrong.length && (!props.only || line.left_out));
  const shown = [...wrong, ...others];
  return (
    <List>
      <ol>
        {shown.slice(0, LINES_SHOWN).map((line) => {
          const cells = Object.entries(line.cells ?? {});
          return (
            <li key={line.number} data-open={line.wrong.length > 0 || undefined} data-out={line.left_out || undefined}>
              <i>{line.number}</i>
              <span>
                {props.only && line.wrong.length > 0 && line.told && <b>{line.told}: </b>}
                {line.wrong.length ? `${line.wrong.join("; ")}.` : line.told}
              </span>
              {line.left_out ? (
                <Word aria-label={w.takeLine(line.number)} onPress={() => say.leaveOut(line.number, false)}>
                  {w.takeAgain}
                </Word>
              ) : (
                cells.length > 0 && (
                  <span className="acts">
                    <Word
                      aria-label={w.mendLine(line.number)}
                      aria-expanded={open === line.number}
                      onPress={() => setOpen(open === line.number ? null : line.number)}
                    >
                      {open === line.number ? w.close : w.mend}
                    </Word>
                    <Word aria-label={w.leaveLine(line.number)} onPress={() => say.leaveOut(line.number, true)}>
                      {w.leaveOut}
                    </Word>
                  </span>
                )
              )}
              {open === line.number && !line.left_out && (
                <div>
                  {cells.map(([column, cell]) => (
                    // biome-ignore lint/a11y/noLabelWithoutControl: the field inside is one
                    <label key={column}>
                      {props.heads[column] ?? column}
                      <Typed
                        label={w.cell(props.heads[column] ?? column, line.number)}
                        value={cell}
                        set={(text) => say.mend(line.number, column, text)}
                      />
                    </label>
                  ))}
                </div>
              )}
            </li>
          );
        })}
      </ol>
      {shown.length > LINES_SHOWN && <p>{w.more(shown.length - LINES_SHOWN)}</p>}
    </List>
  );
}

const List = styled.div`
  h3 { font-size: 13.5px; font-weight: 600; margin: 14px 0 0; }
  > p { color: var(--faint); margin: 0 0 4px; }
  ul, ol { border-top: 1px solid var(--rule); }
  li { display: grid; gap: 3px 12px; padding: 3px 0; border-bottom: 1px solid var(--rule); align-items: baseline; }
  ul li { grid-template-columns: 110px minmax(0, 1fr) 62px minmax(0, 1.3fr); }
  ol li { grid-template-columns: 42px minmax(0, 1fr) auto; }
  b { font-weight: 550; overflow-wrap: anywhere; }
  i { font-style: normal; color: var(--faint); text-align: right; }
  ul i { text-align: left; }
  li > span:first-child { color: var(--faint); }
  [data-open] ${ChoiceButton}, [data-open] input::placeholder, ol [data-open] > span:nth-child(2) { color: var(--clay); }
  ol [data-open] > span:nth-child(2) { font: 15px/1.35 var(--voice); }
  [data-out] > span { color: var(--faint); text-decoration: line-through; }
  ${ChoiceButton} { width: 100%; }
  .typed { display: flex; gap: 12px; align-items: baseline; }
  .typed input { flex: 1; }
  .acts { display: flex; gap: 14px; }
  ol li > div { grid-column: 2 / -1; display: grid; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); gap: 6px 16px; padding: 4px 0 8px; }
  ol label { display: grid; font-size: 12.5px; color: var(--faint); min-width: 0; }
  ol label input { color: var(--ink); }
  ${NARROW} { ul li { grid-template-columns: minmax(0, 1fr) auto; } ul li > :last-child { grid-column: 1 / -1; } ul li > span:first-child { grid-column: 1 / -1; } }
`;
