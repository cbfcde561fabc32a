/** What the brand's own feed asks the server. */

import { useInfiniteQuery, useMutation } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../../api/client";
import { keyOf, useChanged } from "../../../api/keys";
import { every } from "../../../api/live";

export type OwnFeed = Schemas["OwnFeed"];
export type OwnFeedItem = Schemas["OwnFeedItem"];

export function useOwnFeed(brand: string) {
  return useInfiniteQuery({
    queryKey: keyOf("own feed", brand),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam: cursor }) =>
      unwrap(api.GET("/api/brands/{brand}/plan/own-feed", { params: { path: { brand }, query: { cursor } } })),
    getNextPageParam: (page) => page.next ?? undefined,
    refetchInterval: every(60_000),
  });
}

export type Push = Schemas["Push"];
export type PushMessage = Schemas["PushMessage"];

export function usePush(brand: string) {
  return useInfiniteQuery({
    queryKey: keyOf("push", brand),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam: cursor }) =>
      unwrap(api.GET("/api/brands/{brand}/plan/push", { params: { path: { brand }, query: { cursor } } })),
    getNextPageParam: (page) => page.next ?? undefined,
    refetchInterval: every(60_000),
  });
}

export function usePushActs(brand: string) {
  const changed = useChanged(brand);
  const set = useMutation({
    mutationFn: (body: Schemas["PushInputRequest"]) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/push", { params: { path: { brand } }, body })),
    onSuccess: () => changed("push"),
  });
  return { set };
}

export function useOwnFeedActs(brand: string) {
  const changed = useChanged(brand);
  const set = useMutation({
    mutationFn: (body: Schemas["OwnFeedInputRequest"]) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/own-feed", { params: { path: { brand } }, body })),
    onSuccess: () => changed("own_feed"),
  });
  const away = useMutation({
    mutationFn: ({ id, is_away }: { id: number; is_away: boolean }) =>
      unwrap(
        api.PUT("/api/brands/{brand}/plan/own-feed/items/{id}", { params: { path: { brand, id } }, body: { is_away } }),
      ),
    onSuccess: () => changed("own_feed"),
  });
  return { set, away };
}
