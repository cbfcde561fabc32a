/** What boosts ask the server. */

import { useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../../api/client";
import { keyOf, useChanged } from "../../../api/keys";
import { every } from "../../../api/live";

export type Boost = Schemas["Boost"];
export type BoostLimit = Schemas["BoostLimit"];
export type BoostTerms = Schemas["BoostTerms"];

const of = (brand: string) => ({ params: { path: { brand } } });

/** All boosts, the last begun first, or those of a post. */
export function useBoosts(brand: string, post?: number) {
  return useInfiniteQuery({
    queryKey: keyOf("boosts", brand, post),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam: cursor }) =>
      unwrap(api.GET("/api/brands/{brand}/plan/boosts", { params: { path: { brand }, query: { cursor, post } } })),
    getNextPageParam: (page) => page.next ?? undefined,
    refetchInterval: every(30_000),
  });
}

export function useBoostTerms(brand: string, post: number, isAsked: boolean) {
  return useQuery({
    queryKey: keyOf("boost terms", brand, post),
    enabled: isAsked,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/plan/boosts/terms/{id}", { params: { path: { brand, id: post } } })),
  });
}

export function useBoostActs(brand: string) {
  const changed = useChanged(brand);
  const ask = useMutation({
    mutationFn: (body: Schemas["BoostInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/plan/boosts", { ...of(brand), body })),
    onSuccess: () => changed("boosts", "links"),
  });
  const stop = useMutation({
    mutationFn: (id: number) =>
      unwrap(api.POST("/api/brands/{brand}/plan/boosts/{id}/stop", { params: { path: { brand, id } } })),
    onSuccess: () => changed("boosts"),
  });
  const limit = useMutation({
    mutationFn: (body: Schemas["BoostLimitInputRequest"]) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/boosts/limit", { ...of(brand), body })),
    onSuccess: () => changed("boosts"),
  });
  return { ask, stop, limit };
}
