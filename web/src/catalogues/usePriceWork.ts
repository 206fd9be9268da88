import { useQuery, useQueryClient } from "@tanstack/react-query";
import { data, http, type PriceQuestion } from "../api/client";
import { isSearched } from "../api/work";

/** Between two looks at what is done with a file [ms]. */
const LOOK_MS = 400;

/** What is done with a price list's files on the queue: how far it is, looked at until it is there. */
export function usePriceWork(id: number, question: PriceQuestion | null) {
  const cache = useQueryClient();
  const path = { params: { path: { catalogue_id: id } } };
  const key = ["price-work", id, question];
  const body = question as PriceQuestion;
  const state = useQuery({
    queryKey: key,
    enabled: question !== null,
    retry: false,
    gcTime: 0,
    staleTime: Infinity,
    refetchInterval: ({ state }) => (isSearched(state.data?.underway) ? LOOK_MS : false),
    queryFn: () => data(http.POST("/api/catalogues/{catalogue_id}/asked", { ...path, body })),
  });
  const seen = () => cache.invalidateQueries({ queryKey: key });
  const found = question ? state.data : undefined;
  return {
    found,
    going: question !== null && !state.error && (!found || isSearched(found.underway)),
    /** Why it is not there, in a sentence. */
    told: state.error?.message ?? found?.underway?.told ?? "",
    stop: () => http.POST("/api/catalogues/{catalogue_id}/asked/stop", { ...path, body }).then(seen),
    again: () => http.POST("/api/catalogues/{catalogue_id}/asked/again", { ...path, body }).then(seen),
  };
}
