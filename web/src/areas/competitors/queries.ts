/** What Competitors asks the server. */

import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf } from "../../api/keys";
import type { Study } from "../../study/study";

export type Standing = Schemas["Standing"];

export function useStandings(brand: string, study: Study) {
  const { first, last, compare, network, age, format } = study;
  const query = { first, last, compare, network, age, format };
  return useQuery({
    queryKey: keyOf("competitors", brand, query),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/competitors", { params: { path: { brand }, query } })),
  });
}
