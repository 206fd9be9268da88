import type { ReactNode } from "react";
import { Checkbox, Radio, RadioGroup } from "react-aria-components";
import styled from "styled-components";
import { useShown } from "./useShown";

/** Yes or no, of a value that is nobody's but the screen's. */
export function TickBox(props: {
  label?: string;
  value: boolean;
  set: (value: boolean) => void;
  /** What is written beside it. */
  children?: ReactNode;
}) {
  return (
    <Box aria-label={props.label} isSelected={props.value} onChange={props.set}>
      {MARK}
      {props.children}
    </Box>
  );
}

/** Yes or no. */
export function Tick(props: {
  label?: string;
  value: boolean;
  set: (value: boolean) => Promise<boolean>;
  children?: ReactNode;
}) {
  const [shown, choose] = useShown(props.value, props.set);
  return <TickBox {...props} value={shown} set={choose} />;
}

/** A whole line that is ticked, wherever it is pressed; the mark is its first cell. */
export function TickedLine(props: {
  label: string;
  value: boolean;
  set: (value: boolean) => Promise<boolean>;
  children: ReactNode;
}) {
  const [shown, choose] = useShown(props.value, props.set);
  return (
    <LineBox aria-label={props.label} isSelected={shown} onChange={choose}>
      {MARK}
      {props.children}
    </LineBox>
  );
}

/** One of several, each with its reason beside it. */
export function OneOf<Key extends string>(props: {
  name: string;
  value: Key;
  options: readonly { key: Key; text: string; why?: string }[];
  onChange: (key: Key) => Promise<boolean>;
}) {
  const [shown, choose] = useShown(props.value, props.onChange);
  return (
    <Choices aria-label={props.name} value={shown} onChange={(key) => choose(key as Key)}>
      {props.options.map((option) => (
        <Radio key={option.key} value={option.key}>
          <Ring viewBox="0 0 13 13" aria-hidden="true">
            <circle cx="6.5" cy="6.5" r="6" />
            <circle className="dot" cx="6.5" cy="6.5" r="3.2" />
          </Ring>
          <span>
            {option.text}
            {option.why && <small>{option.why}</small>}
          </span>
        </Radio>
      ))}
    </Choices>
  );
}

/** The control itself lies over what is drawn for it: it takes the pointer, and is where it is seen. */
const CONTROL = `
  > span:first-child {
    position: absolute !important; inset: 0 !important; width: 100% !important; height: 100% !important; margin: 0 !important;
    clip: auto !important; clip-path: none !important; opacity: 0;
  }
  > span:first-child input { position: absolute; inset: 0; width: 100%; height: 100%; margin: 0; cursor: pointer; }
`;

const Square = styled.svg`
  width: 13px; height: 13px; flex: none;
  rect { fill: var(--sheet); stroke: var(--faint); }
  path { fill: none; stroke: none; stroke-width: 2; }
  [data-hovered] > & rect { stroke: var(--ink); }
  [data-selected] > & rect { stroke: var(--clay); }
  [data-selected] > & path { stroke: var(--clay); }
  [data-focus-visible] > & { outline: 2px solid var(--clay); outline-offset: 1px; }
`;

const MARK = (
  <Square viewBox="0 0 13 13" aria-hidden="true">
    <rect x="0.5" y="0.5" width="12" height="12" />
    <path d="M2.6 6.8 5.4 9.8 10.6 2.8" />
  </Square>
);

const Box = styled(Checkbox)`
  position: relative; display: inline-flex; gap: 6px; align-items: center; cursor: pointer; vertical-align: -2px; flex: none;
  ${CONTROL}
`;

const LineBox = styled(Checkbox)`
  position: relative; cursor: pointer;
  ${CONTROL}
`;

const Ring = styled(Square)`
  translate: 0 2px;
  circle { fill: var(--sheet); stroke: var(--faint); }
  circle.dot { fill: none; stroke: none; }
  [data-hovered] > & circle:first-child { stroke: var(--ink); }
  [data-selected] > & circle:first-child { stroke: var(--clay); }
  [data-selected] > & circle.dot { fill: var(--clay); }
`;

const Choices = styled(RadioGroup)`
  display: grid; gap: 6px;
  > label { position: relative; display: grid; grid-template-columns: 18px 1fr; align-items: baseline; cursor: pointer; ${CONTROL} }
  small { display: block; font-size: 12.5px; color: var(--faint); }
`;
