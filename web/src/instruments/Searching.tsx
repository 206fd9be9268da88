import type { Underway } from "../api/client";
import { isSearched } from "../api/work";
import { Making } from "../kit/Making";
import { words } from "../words";

/** How far a search is, with a word that stops it; or why it ended, with one that begins it again. */
export function Searching(props: {
  underway: Underway | null | undefined;
  told: (text: string) => string;
  stop: () => void;
  again: () => void;
}) {
  const { underway } = props;
  if (!underway) return null;
  const going = isSearched(underway);
  return (
    <Making
      told={going ? props.told(underway.text) : underway.told}
      going={going}
      stop={props.stop}
      again={{ label: words.sheets.again, press: props.again }}
    />
  );
}
