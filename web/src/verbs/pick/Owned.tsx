import { addTo } from "../../api/edits";
import { useWork } from "../../api/work";
import { Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.pick;

/** Own one of a model, or none: it is listed with the existing kit of the brief, and enters the pick at price 0. */
export function Owned({ model, name }: { model: string; name: string }) {
  const { outcome, edit } = useWork();
  const mine = outcome.project.kit.filter((kit) => kit.model === model && kit.fate === "kept");
  const act = () =>
    mine.length
      ? edit(...mine.map((kit) => ({ type: "remove_entry" as const, list: "kit" as const, id: kit.id })))
      : edit(addTo("kit", { name, model }));
  const what = mine.length ? w.ownNone : w.own;
  return (
    <Word aria-label={`${what}: ${name}`} onPress={act}>
      {what}
    </Word>
  );
}
