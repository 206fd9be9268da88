import { data, http, type Underway } from "../../api/client";
import { useAsked, useLastReply, useOfRevision, useSearch, useSettled, useWork } from "../../api/work";
import { money } from "../../kit/figures";

/** Parts and work of the project as it is, its offers, and what was paid. */
export function usePrice() {
  return useOfRevision("price", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/price", { params: { path }, signal })),
  );
}

/** The steps from the old network to the new one. */
export function useMoving() {
  return useOfRevision("moving", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/price/moving", { params: { path }, signal })),
  );
}

const ASKED = {
  visits: "/api/projects/{project_id}/price/visits",
  phases: "/api/projects/{project_id}/price/phases",
  phases_by_budget: "/api/projects/{project_id}/price/phases-by-budget",
  kept: "/api/projects/{project_id}/price/kept",
} as const;

/** A long question of Price as far as it is answered; asking puts it on the queue. */
function useLong<Reply extends { revision: number; reply?: unknown; underway?: Underway | null }>(
  type: keyof typeof ASKED,
  wanted: boolean,
  get: (signal: AbortSignal, id: number) => Promise<Reply>,
) {
  const { id, outcome } = useWork();
  const settled = useSettled(outcome.revision);
  const asked = useAsked<Reply>(["price", type, settled], wanted, (signal) => get(signal, id)).data;
  const { stop, again } = useSearch({ type });
  const found = useLastReply(asked);
  return { found, underway: asked?.underway, isOld: found?.revision !== outcome.revision, stop, again };
}

export function useVisits() {
  return useLong("visits", true, (signal, id) =>
    data(http.GET(ASKED.visits, { params: { path: { project_id: id } }, signal })),
  );
}

export function usePhases(wanted: boolean) {
  return useLong("phases", wanted, (signal, id) =>
    data(http.GET(ASKED.phases, { params: { path: { project_id: id } }, signal })),
  );
}

export function useProposedPhases(wanted: boolean) {
  return useLong("phases_by_budget", wanted, (signal, id) =>
    data(http.GET(ASKED.phases_by_budget, { params: { path: { project_id: id } }, signal })),
  );
}

export function useKept(wanted: boolean) {
  return useLong("kept", wanted, (signal, id) =>
    data(http.GET(ASKED.kept, { params: { path: { project_id: id } }, signal })),
  );
}

/** How amounts of the project are written. */
export function useMoney(): (minor: number | null | undefined, unknown?: string) => string {
  const currency = useWork().outcome.project.settings.currency ?? "EUR";
  return (minor, unknown = "–") => (minor == null ? unknown : money(minor, currency));
}
