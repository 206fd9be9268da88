import { data, http, type SitingFor } from "../../api/client";
import { useAsked, useLastReply, useSearch, useSettled, useWork } from "../../api/work";

/** The comparison of places for closets: how far it is, how to end it, and the last one found meanwhile. */
export function useSiting() {
  const { id, outcome } = useWork();
  const settled = useSettled(outcome.revision);
  const now = useAsked<SitingFor>(["sites", settled], outcome.project.drops.length > 0, (signal) =>
    data(http.GET("/api/projects/{project_id}/siting", { params: { path: { project_id: id } }, signal })),
  ).data;
  const found = useLastReply(now);
  return {
    underway: now?.underway ?? null,
    found,
    isOld: found !== undefined && found.revision !== outcome.revision,
    ...useSearch({ type: "sites" }),
  };
}
