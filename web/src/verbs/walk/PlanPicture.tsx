import { type FormEvent, useState } from "react";
import type { Floor } from "../../api/client";
import { changeIn } from "../../api/edits";
import { keepPicture } from "../../api/files";
import { useWork } from "../../api/work";
import type { Spot } from "../../instruments/plan/geometry";
import { FileWord } from "../../kit/FileWord";
import { lengthUnit, toMetres, typedFigure } from "../../kit/figures";
import { Field, Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.planPicture;
const WIDTH_AT_FIRST_M = 20;

/** The picture under a plan: taken from a file, scaled by two points and the length between them. */
export function PlanPicture(props: {
  floor: Floor;
  spots: readonly Spot[] | null;
  measure: (spots: readonly Spot[] | null) => void;
}) {
  const { id, edit, say } = useWork();
  const { floor, spots } = props;
  const [busy, setBusy] = useState(false);
  const [text, setText] = useState("");
  const set = (changes: Partial<Floor>) => edit(changeIn("floors", floor.id, changes));
  const take = async (chosen: File) => {
    setBusy(true);
    try {
      const kept = await keepPicture(id, chosen);
      await set({
        picture: kept.key,
        picture_width_px: kept.width_px,
        picture_height_px: kept.height_px,
        picture_m_per_px: kept.m_per_px ?? WIDTH_AT_FIRST_M / kept.width_px,
        picture_x_m: 0,
        picture_y_m: 0,
      });
      if (kept.m_per_px === null) props.measure([]);
    } catch (error) {
      say((error as Error).message);
    }
    setBusy(false);
  };
  const scale = async (event: FormEvent) => {
    event.preventDefault();
    const [a, b] = spots ?? [];
    const metres = toMetres(typedFigure(text));
    if (!a || !b || !(metres > 0)) return;
    const factor = metres / Math.hypot(b[0] - a[0], b[1] - a[1]);
    // the first point stays where it is
    const taken = await set({
      picture_m_per_px: floor.picture_m_per_px * factor,
      picture_x_m: a[0] + (floor.picture_x_m - a[0]) * factor,
      picture_y_m: a[1] + (floor.picture_y_m - a[1]) * factor,
    });
    if (taken) {
      props.measure(null);
      setText("");
    }
  };
  return (
    <>
      {!floor.picture && (
        <FileWord label={w.take} busy={busy && w.working} accept=".png,.jpg,.jpeg,.svg,.pdf,.dxf" onFile={take} />
      )}
      {floor.picture && !spots && (
        <>
          <Word onPress={() => props.measure([])}>{w.scale}</Word>
          <Word onPress={() => set({ picture: null })}>{w.remove}</Word>
        </>
      )}
      {spots && spots.length < 2 && <Word onPress={() => props.measure(null)}>{w.stop}</Word>}
      {spots && spots.length === 2 && (
        <form onSubmit={scale}>
          <Field
            autoFocus
            aria-label={w.between}
            placeholder={`${w.between}, ${lengthUnit()}`}
            inputMode="decimal"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />{" "}
          <button type="submit">{w.set}</button>
        </form>
      )}
    </>
  );
}
