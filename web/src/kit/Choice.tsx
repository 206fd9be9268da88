import { type ReactNode, useEffect, useRef, useState } from "react";
import { Button, ListBox, ListBoxItem, Popover, Select, SelectValue } from "react-aria-components";
import styled from "styled-components";
import { useShown } from "./useShown";

export type Option<Key extends string> = readonly [key: Key, text: ReactNode];

/** Keys and their words as options. */
export function optionsOf<Key extends string>(words: Readonly<Record<Key, string>>): Option<Key>[] {
  return Object.entries(words) as [Key, string][];
}

/** One of a few, where it stands; the list of options is made when it is opened, for sheets and tables have many. */
export function Choice<Key extends string>(props: {
  label: string;
  value: Key;
  options: readonly Option<NoInfer<Key>>[];
  powered?: boolean;
  set: (value: Key) => Promise<boolean>;
}) {
  const [shown, choose] = useShown(props.value, props.set);
  const [opened, setOpened] = useState(false);
  if (opened) return <Chooser {...props} value={shown} set={choose} isOpened />;
  const text = props.options.find(([key]) => key === shown)?.[1];
  return (
    <ChoiceButton
      aria-label={typeof text === "string" ? `${text} ${props.label}` : props.label}
      aria-haspopup="listbox"
      data-power={props.powered || undefined}
      onPress={() => setOpened(true)}
      onKeyDown={(event) => event.key.startsWith("Arrow") && setOpened(true)}
    >
      <span>{text}</span>
    </ChoiceButton>
  );
}

/** The same, of a value that is nobody's but the screen's. */
export function Chooser<Key extends string>(props: {
  label: string;
  value: Key | null;
  options: readonly Option<NoInfer<Key>>[];
  /** What stands there while nothing is chosen. */
  placeholder?: string;
  powered?: boolean;
  /** It is made because somebody opened it. */
  isOpened?: boolean;
  set: (value: Key) => void;
}) {
  const button = useRef<HTMLButtonElement>(null);
  const [isOpen, setOpen] = useState(false);
  useEffect(() => {
    if (!props.isOpened) return;
    // it has the focus before its options take it, so that it gets it back
    button.current?.focus();
    setOpen(true);
  }, [props.isOpened]);
  return (
    <Select
      aria-label={props.label}
      placeholder={props.placeholder}
      isOpen={isOpen}
      onOpenChange={setOpen}
      value={props.value === null ? null : idOf(props.value)}
      onChange={(id) => props.set(String(id).slice(1) as Key)}
    >
      <ChoiceButton ref={button} data-power={props.powered || undefined}>
        <SelectValue />
      </ChoiceButton>
      <Options placement="bottom start">
        <ListBox items={props.options.map(([key, text]) => ({ id: idOf(key), text }))}>
          {(option) => (
            <ListBoxItem id={option.id} textValue={typeof option.text === "string" ? option.text : option.id.slice(1)}>
              {option.text}
            </ListBoxItem>
          )}
        </ListBox>
      </Options>
    </Select>
  );
}

/** An option may have an empty key, an item may not. */
const idOf = (key: string) => `=${key}`;

export const ChoiceButton = styled(Button)`
  background: none; border: 0; border-bottom: 1px dotted var(--faint); padding: 0 1px; cursor: pointer; text-align: left;
  min-width: 0; max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; vertical-align: bottom;
  > span { display: block; overflow: hidden; text-overflow: ellipsis; }
  > span:empty::before { content: "\\00a0"; }
  &[data-hovered], &[aria-expanded="true"] { border-bottom: 1px solid var(--ink); }
  [data-placeholder] { color: var(--slate); }
  &[data-power] { color: var(--clay); }
`;

const Options = styled(Popover)`
  background: var(--sheet); border: 1px solid var(--ink); max-height: 60vh; overflow: auto; min-width: var(--trigger-width);
  > [role="listbox"] { outline: none; padding: 3px 0; }
  [role="option"] { padding: 3px 14px 3px 10px; cursor: pointer; outline: none; white-space: nowrap; }
  [role="option"][data-focused] { background: var(--earth); }
  [role="option"][data-selected] { font-weight: 650; box-shadow: inset 3px 0 var(--clay); }
`;
