/** What Timing asks the server. */

import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf } from "../../api/keys";

export type Week = Schemas["Timing"];
export type Hour = Schemas["Hour"];

export function useWeek(brand: string, profile?: number, zone?: string) {
  return useQuery({
    queryKey: keyOf("timing", brand, profile, zone),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/timing", { params: { path: { brand }, query: { profile, zone } } })),
  });
}

/** Proposed hours for one profile, for who is writing. */
export function useBestHours(brand: string, profile?: number) {
  return useQuery({
    queryKey: keyOf("timing", brand, profile, undefined),
    enabled: profile !== undefined,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/timing", { params: { path: { brand }, query: { profile } } })),
  });
}
