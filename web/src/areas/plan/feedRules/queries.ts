/** What rules for feeds ask the server. */

import { useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../../api/client";
import { keyOf, useChanged } from "../../../api/keys";
import { every } from "../../../api/live";
import { keptWithin } from "../../../lib/keep";

export type FeedRule = Schemas["FeedRule"];
export type FeedRuleContent = Schemas["FeedRuleContentRequest"];
export type FeedRuleItem = Schemas["FeedRuleItem"];
export type FeedRulePreview = Schemas["FeedRulePreview"];

const of = (brand: string) => ({ params: { path: { brand } } });

export function useFeedRules(brand: string) {
  return useQuery({
    queryKey: keyOf("feed rules", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/feed-rules", of(brand))),
    refetchInterval: every(60_000),
  });
}

/** What became of items by a rule, the newest first. */
export function useFeedRuleItems(brand: string, id: number) {
  return useInfiniteQuery({
    queryKey: keyOf("feed rule items", brand, id),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam: cursor }) =>
      unwrap(
        api.GET("/api/brands/{brand}/plan/feed-rules/{id}/items", {
          params: { path: { brand, id }, query: { cursor, limit: 8 } },
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  });
}

/** A rule tried on the newest items of its feed, while it is written. */
export function useFeedRulePreview(brand: string, content: FeedRuleContent | null) {
  return useQuery({
    queryKey: keyOf("feed rule preview", brand, content),
    placeholderData: keptWithin("feed rule preview", brand),
    enabled: content !== null,
    retry: false,
    queryFn: () =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/feed-rules/preview", { ...of(brand), body: content as FeedRuleContent }),
      ),
  });
}

export function useFeedRuleActs(brand: string) {
  const changed = useChanged(brand);
  const keep = useMutation({
    mutationFn: ({ id, edition, ...body }: FeedRuleContent & { id?: number; edition?: number }) =>
      id === undefined
        ? unwrap(api.POST("/api/brands/{brand}/plan/feed-rules", { ...of(brand), body }))
        : unwrap(
            api.PUT("/api/brands/{brand}/plan/feed-rules/{id}", {
              params: { path: { brand, id } },
              body: { ...body, edition: edition ?? 0 },
            }),
          ),
    onSuccess: () => changed("feed_rules"),
  });
  const remove = useMutation({
    mutationFn: ({ id, takes_back }: { id: number; takes_back: boolean }) =>
      unwrap(
        api.DELETE("/api/brands/{brand}/plan/feed-rules/{id}", {
          params: { path: { brand, id }, query: { takes_back } },
        }),
      ),
    onSuccess: () => changed("feed_rules", "plan"),
  });
  return { keep, remove };
}
