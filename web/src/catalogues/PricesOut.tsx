import { useEffect, useState } from "react";
import type { PriceQuestion } from "../api/client";
import { Making } from "../kit/Making";
import { Word } from "../kit/parts";
import { words } from "../words";
import { usePriceWork } from "./usePriceWork";

const w = words.catalogues;
const FORMATS = ["csv", "xlsx", "json"] as const;

/** A price list as a file: written elsewhere, and handed over once it is there. */
export function PricesOut({ id, edition }: { id: number; edition: number }) {
  const [format, setFormat] = useState<(typeof FORMATS)[number] | null>(null);
  const question: PriceQuestion | null = format && { type: "write", format, edition };
  const { found, going, told, stop, again } = usePriceWork(id, question);
  const written = found?.written && !found.underway;
  useEffect(() => {
    if (!written) return;
    setFormat(null);
    window.location.assign(`/api/catalogues/${id}/prices.${format}?edition=${edition}`);
  }, [written, id, format, edition]);
  if (format) {
    const text = found?.underway?.text;
    return (
      <Making
        told={going ? w.writing(format.toUpperCase(), text) : told || w.notWritten}
        going={going}
        stop={stop}
        again={{ label: w.write, press: again }}
      />
    );
  }
  return (
    <>
      {w.out}
      {FORMATS.map((one) => (
        <Word key={one} onPress={() => setFormat(one)}>
          {one.toUpperCase()}
        </Word>
      ))}
    </>
  );
}
