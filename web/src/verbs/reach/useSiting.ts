import { useEffect, useState } from "react";
import { data, http, type SitingFor } from "../../api/client";
import { useAsked, useSearch, useSettled, useWork } from "../../api/work";

/** The comparison of places for closets: how far it is, how to end it, and the last one found meanwhile. */
export function useSiting() {
  const { id, outcome } = useWork();
  const settled = useSettled(outcome.revision);
  const [found, setFound] = useState<SitingFor | null>(null);
  const now = useAsked<SitingFor>(["sites", settled], outcome.project.drops.length > 0, (signal) =>
    data(http.GET("/api/projects/{project_id}/siting", { params: { path: { project_id: id } }, signal })),
  ).data;
  useEffect(() => {
    if (now?.reply) setFound(now);
  }, [now]);
  return {
    underway: now?.underway ?? null,
    found,
    isOld: found !== null && found.revision !== outcome.revision,
    ...useSearch({ type: "sites" }),
  };
}
