import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type CatalogueChange, type CatalogueFor, data, http } from "../api/client";

/** All catalogues, the shipped one first. */
export function useCatalogues() {
  return useQuery({ queryKey: ["catalogues"], queryFn: () => data(http.GET("/api/catalogues")), staleTime: 0 });
}

/** One catalogue as it is now, and the door through which it is changed: each change makes an edition. */
export function useCatalogue(id: number) {
  const cache = useQueryClient();
  const path = { params: { path: { catalogue_id: id } } };
  const key = ["catalogue-edition", id];
  const query = useQuery<CatalogueFor>({
    queryKey: key,
    queryFn: () => data(http.GET("/api/catalogues/{catalogue_id}", path)),
    staleTime: 0,
  });
  const settle = (next?: CatalogueFor) => {
    if (next) cache.setQueryData(key, next);
    else cache.invalidateQueries({ queryKey: key });
    cache.invalidateQueries({ queryKey: ["catalogues"] });
    cache.invalidateQueries({ queryKey: ["editions", id] });
    cache.invalidateQueries({ queryKey: ["price-lists"] });
  };
  const change = useMutation({
    mutationFn: (changes: CatalogueChange[]) =>
      data(
        http.POST("/api/catalogues/{catalogue_id}/changes", {
          ...path,
          body: { seen_edition: query.data?.edition ?? 1, changes },
        }),
      ),
    onSuccess: settle,
    onError: () => cache.invalidateQueries({ queryKey: key }),
  });
  return { query, change, settle };
}
