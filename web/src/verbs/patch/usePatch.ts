import { useState } from "react";
import { type ClosetPatching, data, http, type Network, type PatchFor } from "../../api/client";
import { useOfRevision, useWork } from "../../api/work";

/** The patching of the project as it is. */
export function usePatch() {
  return useOfRevision("patch", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/patch", { params: { path }, signal })),
  );
}

/** The closet that is looked at. */
export function usePatchedCloset(patch: PatchFor | undefined): {
  here: ClosetPatching | undefined;
  pick: (closet: number) => void;
} {
  const [picked, pick] = useState<number | null>(null);
  return { here: patch?.closets.find((one) => one.closet_id === picked) ?? patch?.closets[0], pick };
}

/** Networks by number of their row. */
export function useNetworks(): Map<number, Network> {
  const { networks } = useWork().outcome.project;
  return new Map(networks?.map((one) => [one.id, one]));
}

/** How threads of a network are drawn: by its place in the list, never by colour alone. */
const DASHES = ["", "8 3", "2 3", "9 2.5 2 2.5", "5 5", "1.5 5", "12 3 2 3 2 3", "3 1.5"];

export function useThreads(): (network: number | null | undefined) => string {
  const { networks } = useWork().outcome.project;
  const place = new Map(networks?.map((one, index) => [one.id, index]));
  return (network) => (network == null ? "" : (DASHES[(place.get(network) ?? 0) % DASHES.length] ?? ""));
}
