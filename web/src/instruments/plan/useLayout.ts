import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { data, http } from "../../api/client";
import { useWork } from "../../api/work";

/** Where everything is, and how runs go, for the project as it stands; the last layout stays while the next comes. */
export function useLayout() {
  const { id, outcome } = useWork();
  const query = useQuery({
    queryKey: ["layout", id, outcome.revision],
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      data(http.GET("/api/projects/{project_id}/layout", { params: { path: { project_id: id } }, signal })),
  });
  return query.data;
}
