import { useQuery } from "@tanstack/react-query";
import { data, http, type LineKind } from "../api/client";

const NONE: readonly LineKind[] = [];

/** The kinds of lines that price lists may have. */
export function useLineKinds(): readonly LineKind[] {
  const kinds = useQuery({
    queryKey: ["line-kinds"],
    queryFn: () => data(http.GET("/api/line-kinds")),
    staleTime: Infinity,
  });
  return kinds.data ?? NONE;
}
