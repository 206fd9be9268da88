import { type FormEvent, useRef, useState } from "react";
import styled from "styled-components";
import { useWork } from "../../api/work";
import { Field } from "../../kit/parts";
import { words } from "../../words";

const w = words.tally;

/** One line that adds a room; the floor of the last one is taken until another is typed. */
export function AddRoom() {
  const { outcome, edit } = useWork();
  const last = outcome.project.rooms.at(-1);
  const lastFloor = outcome.project.floors.find((known) => known.id === last?.floor_id)?.name ?? "";
  const [name, setName] = useState("");
  const [floor, setFloor] = useState<string | null>(null);
  const [outside, setOutside] = useState<boolean | null>(null);
  const line = useRef<HTMLInputElement>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!name.trim()) return;
    const room = {
      name: name.trim(),
      floor: floor ?? lastFloor,
      outside: outside ?? last?.outside ?? false,
      use: "" as const,
    };
    if (await edit({ type: "add_rooms", rooms: [room] })) {
      setName("");
      line.current?.focus();
    }
  };
  return (
    <Line onSubmit={submit}>
      <Field
        ref={line}
        id="add-room"
        aria-label={w.add}
        placeholder={w.addPlaceholder}
        value={name}
        maxLength={200}
        onChange={(event) => setName(event.target.value)}
      />
      <Field
        aria-label={w.floor}
        placeholder={w.floorPlaceholder}
        value={floor ?? lastFloor}
        maxLength={200}
        onChange={(event) => setFloor(event.target.value)}
      />
      <label>
        <input
          type="checkbox"
          checked={outside ?? last?.outside ?? false}
          onChange={(event) => setOutside(event.target.checked)}
        />{" "}
        {w.outside}
      </label>
      <button type="submit" disabled={!name.trim()}>
        {w.add}
      </button>
    </Line>
  );
}

const Line = styled.form`
  display: flex; gap: 10px; align-items: baseline; padding: 6px 0 2px; flex-wrap: wrap;
  input:not([type="checkbox"]) { width: 134px; }
  input[type="checkbox"] { accent-color: var(--clay); }
  button { background: none; border: 0; color: var(--slate); text-decoration: underline; cursor: pointer; padding: 0; }
  button:disabled { color: var(--faint); text-decoration: none; cursor: default; }
  label { color: var(--faint); }
`;
