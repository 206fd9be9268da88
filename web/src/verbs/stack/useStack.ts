import { useState } from "react";
import {
  type Closet,
  type ClosetStack,
  data,
  http,
  type StackFor,
  type StackProposalsFor,
  type Thing,
} from "../../api/client";
import { addTo, changeIn, type Values } from "../../api/edits";
import { useAsked, useLastReply, useOfRevision, useSearch, useSettled, useWork } from "../../api/work";

/** What stands in every closet of the project as it is. */
export function useStack() {
  return useOfRevision("stack", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/stack", { params: { path }, signal })),
  );
}

/** What could stand better, as far as it is found; asking puts the search on the queue. */
export function useProposals() {
  const { id, outcome } = useWork();
  const settled = useSettled(outcome.revision);
  const asked = useAsked<StackProposalsFor>(["stack-proposals", settled], true, (signal) =>
    data(http.GET("/api/projects/{project_id}/stack/proposals", { params: { path: { project_id: id } }, signal })),
  ).data;
  const { stop, again } = useSearch({ type: "stack" });
  const found = useLastReply(asked);
  return { found, underway: asked?.underway, isOld: found?.revision !== outcome.revision, stop, again };
}

/** The closet that is looked at, and its stack. */
export function useCloset(stack: StackFor | undefined): {
  closet: Closet | undefined;
  here: ClosetStack | undefined;
  pick: (closet: number) => void;
} {
  const { closets } = useWork().outcome.project;
  const [picked, pick] = useState<number | null>(null);
  const closet = closets.find((one) => one.id === picked) ?? closets[0];
  return { closet, here: stack?.closets.find((one) => one.closet_id === closet?.id), pick };
}

/** To say where a thing stands and how it is plugged in; the first word of it makes its row. */
export function useSayOfThing() {
  const { outcome, edit } = useWork();
  return (thing: Pick<Thing, "closet_id" | "key">, said: Values<"placings">) => {
    const row = outcome.project.placings?.find((one) => one.closet_id === thing.closet_id && one.thing === thing.key);
    return edit(
      row
        ? changeIn("placings", row.id, said)
        : addTo("placings", { closet_id: thing.closet_id, thing: thing.key, ...said }),
    );
  };
}
