import { useRef } from "react";
import { Word } from "./parts";

/** A word that asks for a file; the same one may be chosen twice in a row. */
export function FileWord(props: {
  label: string;
  /** What stands there while it works on a file. */
  busy?: string | false;
  accept: string;
  capture?: "environment";
  onFile: (file: File) => void;
}) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={chooser}
        type="file"
        hidden
        accept={props.accept}
        {...(props.capture && { capture: props.capture })}
        aria-label={props.label}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) props.onFile(chosen);
          event.target.value = "";
        }}
      />
      <Word isDisabled={Boolean(props.busy)} onPress={() => chooser.current?.click()}>
        {props.busy || props.label}
      </Word>
    </>
  );
}
