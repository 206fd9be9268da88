import { type ReactNode, useEffect, useState } from "react";
import { data, http, type SheetName } from "../api/client";
import { isSearched, useAsked, useSearch, useWork } from "../api/work";
import { Making } from "../kit/Making";
import { Word } from "../kit/parts";
import { words } from "../words";

const w = words.sheets;

/** A sheet to print: asked for, written elsewhere, and handed over as a file once it is there. */
export function SheetWord({ sheet, of, children }: { sheet: SheetName; of?: number; children?: ReactNode }) {
  const { id, outcome } = useWork();
  const [wanted, setWanted] = useState(false);
  const { stop, again } = useSearch({ type: "sheet", sheet, of });
  const state = useAsked(["sheet", sheet, of, outcome.revision], wanted, (signal) =>
    data(
      http.GET("/api/projects/{project_id}/sheets/{sheet}", {
        params: { path: { project_id: id, sheet }, query: { of } },
        signal,
      }),
    ),
  );
  const { underway, ready } = (wanted && state.data) || {};
  useEffect(() => {
    if (!ready || state.isPlaceholderData) return;
    setWanted(false);
    window.location.assign(`/api/projects/${id}/sheets/${sheet}/pdf${of ? `?of=${of}` : ""}`);
  }, [id, sheet, of, ready, state.isPlaceholderData]);
  if (!wanted) return <Word onPress={() => setWanted(true)}>{children ?? w.pdf}</Word>;
  const searched = !state.error && (!underway || isSearched(underway));
  return (
    <Making
      told={searched ? w.made(underway?.text) : state.error?.message || underway?.told || w.stopped}
      going={searched}
      stop={stop}
      again={{ label: w.again, press: again }}
    />
  );
}
