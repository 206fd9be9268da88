import { useQuery } from "@tanstack/react-query";
import { data, http } from "../../api/client";
import { useOfRevision } from "../../api/work";

/** Runs and paths of the project as it stands; the last ones stay while the next come. */
export function useReach() {
  return useOfRevision("reach", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/reach", { params: { path }, signal })),
  );
}

/** The kinds of path with their defaults. */
export function usePathKinds() {
  const kinds = useQuery({
    queryKey: ["path-kinds"],
    queryFn: () => data(http.GET("/api/path-kinds")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return kinds.data ?? [];
}
