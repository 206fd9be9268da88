import { type FormEvent, useRef, useState } from "react";
import styled from "styled-components";
import { data, type Edit, http } from "../../api/client";
import { useWork } from "../../api/work";
import { Field } from "../../kit/parts";
import { TickBox } from "../../kit/Tick";
import { words } from "../../words";

const w = words.tally;

/** One line that adds a room; the floor of the last one is taken until another is typed. */
export function AddRoom() {
  const { id, outcome, edit, say } = useWork();
  const last = outcome.project.rooms.at(-1);
  const lastFloor = outcome.project.floors.find((known) => known.id === last?.floor_id)?.name ?? "";
  const [name, setName] = useState("");
  const [floor, setFloor] = useState<string | null>(null);
  const [outside, setOutside] = useState<boolean | null>(null);
  const line = useRef<HTMLInputElement>(null);
  const take = async (text: string) => {
    const heard = await data(
      http.POST("/api/projects/{project_id}/room-list", {
        params: { path: { project_id: id } },
        body: { text, floor: floor ?? lastFloor, outside: outside ?? last?.outside ?? false },
      }),
    ).catch(() => null);
    if (heard?.complaint) say(heard.complaint);
    if (heard?.edit && (await edit(heard.edit as Edit))) {
      setName("");
      line.current?.focus();
    }
  };
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!name.trim()) return;
    await take(name);
  };
  return (
    <Line onSubmit={submit}>
      <Field
        ref={line}
        id="add-room"
        aria-label={w.add}
        placeholder={w.addPlaceholder}
        value={name}
        maxLength={2000}
        title={w.addTitle}
        onChange={(event) => setName(event.target.value)}
        onPaste={(event) => {
          const text = event.clipboardData.getData("text/plain");
          if (!text.trim().includes("\n")) return;
          // a whole list: the line of one room could not hold it
          event.preventDefault();
          take(text);
        }}
      />
      <Field
        aria-label={w.floor}
        placeholder={w.floorPlaceholder}
        value={floor ?? lastFloor}
        maxLength={200}
        onChange={(event) => setFloor(event.target.value)}
      />
      <TickBox value={outside ?? last?.outside ?? false} set={setOutside}>
        <i>{w.outside}</i>
      </TickBox>
      <button type="submit" disabled={!name.trim()}>
        {w.add}
      </button>
    </Line>
  );
}

const Line = styled.form`
  display: flex; gap: 10px; align-items: baseline; padding: 6px 0 2px; flex-wrap: wrap;
  > input { width: 134px; }
  > input:first-child { width: 210px; }
  button { background: none; border: 0; color: var(--slate); text-decoration: underline; cursor: pointer; padding: 0; }
  button:disabled { color: var(--faint); text-decoration: none; cursor: default; }
  > label { align-self: center; }
  i { font-style: normal; color: var(--faint); }
`;
