import { useQuery } from "@tanstack/react-query";
import { data, http, type ViewLine } from "../../api/client";
import { addTo, changeIn, type Values } from "../../api/edits";
import { useOfRevision, useWork } from "../../api/work";

/** Heights above the floor that are looked at [m]. */
export const HEIGHTS_M = { face: 1.6, plate: 0.6, ground: 0 } as const;
export type LookedAt = keyof typeof HEIGHTS_M;
export const DETAILS = ["detect", "observe", "recognise", "identify"] as const;

/** Views with their bands at a height, and targets, of the project as it stands. */
export function useCover(lookedAt: LookedAt = "face") {
  return useOfRevision(`cover-${lookedAt}`, (path, signal) =>
    data(
      http.GET("/api/projects/{project_id}/cover", {
        params: { path, query: { height_m: HEIGHTS_M[lookedAt] } },
        signal,
      }),
    ),
  );
}

/** What the price lists offer for cameras, and what a drop and its view become by it. */
export function useModels() {
  return useOfRevision("cover-models", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/cover/models", { params: { path }, signal })),
  );
}

/** The low sun in every view. */
export function useSun() {
  return useOfRevision("cover-sun", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/cover/sun", { params: { path }, signal })),
  );
}

/** Who sees a spot of a floor. */
export function useSpot(floor: number, spot: readonly [number, number] | null, lookedAt: LookedAt) {
  const { id, outcome } = useWork();
  return useQuery({
    queryKey: ["cover-spot", id, outcome.revision, floor, spot, lookedAt],
    enabled: spot !== null,
    queryFn: ({ signal }) =>
      data(
        http.GET("/api/projects/{project_id}/cover/spot", {
          params: {
            path: { project_id: id },
            query: { floor_id: floor, x_m: spot?.[0] ?? 0, y_m: spot?.[1] ?? 0, height_m: HEIGHTS_M[lookedAt] },
          },
          signal,
        }),
      ),
  }).data;
}

/** What a view is told apart by. */
export const keyOf = (view: { drop_id: number; view_id?: number | null }) => `${view.drop_id}/${view.view_id ?? 0}`;

/** To say something of a view; the first word of it makes its row. */
export function useSayOfView() {
  const { edit } = useWork();
  return (view: Pick<ViewLine, "drop_id" | "view_id">, said: Values<"views">) =>
    edit(view.view_id ? changeIn("views", view.view_id, said) : addTo("views", { drop_id: view.drop_id, ...said }));
}
