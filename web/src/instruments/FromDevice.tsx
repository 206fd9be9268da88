import { useState } from "react";
import styled from "styled-components";
import { useWork } from "../api/work";
import { FileWord } from "../kit/FileWord";
import { Field, Word } from "../kit/parts";

/** What a device tells: a file that somebody brings, or a simulated device asked over HTTP; both through one door. */
export function FromDevice(props: {
  words: { bring: string; reading: string; ask: string; seed: string; file?: string; columns?: string };
  /** Where the simulated device is asked, with the seed of its faults. */
  address: (seed: string) => string;
  take: (told: Blob) => Promise<unknown>;
}) {
  const { say } = useWork();
  const { words: w } = props;
  const [busy, setBusy] = useState(false);
  const [seed, setSeed] = useState("1");
  const keep = async (told: Blob) => {
    setBusy(true);
    try {
      await props.take(told);
    } catch (error) {
      say(error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Tools>
      <FileWord label={w.bring} busy={busy && w.reading} accept=".csv,.xlsx,.txt,.tsv,.json" onFile={keep} />
      <Word
        isDisabled={busy}
        onPress={async () => {
          const told = await fetch(props.address(seed));
          if (told.ok) await keep(await told.blob());
          else say((await told.json().catch(() => null))?.detail ?? told.statusText);
        }}
      >
        {w.ask}
      </Word>
      {/* biome-ignore lint/a11y/noLabelWithoutControl: the field inside is one */}
      <label>
        {w.seed}{" "}
        <Field
          aria-label={w.seed}
          inputMode="numeric"
          value={seed}
          onChange={(event) => setSeed(event.target.value.replace(/\D/g, "").slice(0, 9) || "0")}
        />
      </label>
      {w.file && <a href={props.address(seed)}>{w.file}</a>}
      {w.columns && <span>{w.columns}</span>}
    </Tools>
  );
}

const Tools = styled.div`
  display: flex; flex-wrap: wrap; gap: 4px 16px; align-items: baseline;
  label { color: var(--faint); white-space: nowrap; }
  input { width: 7ch; text-align: right; padding-block: 0; }
  span { color: var(--faint); flex-basis: 100%; }
`;
