import { useState } from "react";
import { Field } from "./parts";

/** A field that adds something by its name and is empty again; what could not be added stays there. */
export function AddByName(props: { label: string; size?: number; add: (name: string) => Promise<boolean> }) {
  const [name, setName] = useState("");
  return (
    <form
      onSubmit={async (event) => {
        event.preventDefault();
        if (name.trim() && (await props.add(name.trim()))) setName("");
      }}
    >
      <Field
        aria-label={props.label}
        placeholder={props.label}
        size={props.size ?? 28}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
    </form>
  );
}
