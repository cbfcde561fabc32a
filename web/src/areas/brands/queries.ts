/** What the page of all brands asks the server: each brand by itself, so that a slow one holds up no other. */

import { useQueries } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf } from "../../api/keys";

export type Overview = Schemas["Overview"];

export function useOverviews(brands: string[]) {
  return useQueries({
    queries: brands.map((brand) => ({
      queryKey: keyOf("overview", brand),
      refetchInterval: 120_000,
      queryFn: () => unwrap(api.GET("/api/brands/{brand}/overview", { params: { path: { brand } } })),
    })),
  });
}
