/** What Results asks the server. */

import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import { moving } from "../../api/live";
import { usePrinting } from "../../figures/printing";
import { keptWithin } from "../../lib/keep";
import { useLater } from "../../study/later";
import type { Study } from "../../study/study";

export type Measured = Schemas["Measured"];
export type PostRow = Schemas["PostRow"];
export type Metric = Schemas["Metric"];
export type Decomposition = Schemas["Decomposition"];
export type Finding = Schemas["Finding"];
export type Tag = Schemas["Tag"];
const PAGE = 100;

export function useSummary(brand: string, study: Study, metrics: string[], isAsked = true) {
  return useQuery({
    enabled: isAsked,
    queryKey: keyOf("summary", brand, study, metrics),
    placeholderData: keptWithin("summary", brand, study),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/summary", {
          params: { path: { brand }, query: { ...study, metrics: metrics.join(",") } },
        }),
      ),
  });
}

/** What made the difference to one figure. */
export function useDecomposition(brand: string, study: Study, metric: string) {
  return useQuery({
    queryKey: keyOf("decomposition", brand, study, metric),
    placeholderData: keptWithin("decomposition", brand, study),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/decomposition", {
          params: { path: { brand }, query: { ...study, metric } },
        }),
      ),
  });
}

/** What people wrote under one of our posts. */
export function useComments(brand: string, id: number, isOn: boolean) {
  return useQuery({
    queryKey: keyOf("comments", brand, id),
    enabled: isOn,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/sources/posts/{id}/comments", { params: { path: { brand, id } } })),
  });
}

type Table = { sort: string; text: string; columns: string[] };

type Rows = Table & { young?: "after" | "among" };

export function usePosts(brand: string, study: Study, { sort, text, columns, young = "after" }: Rows) {
  return useInfiniteQuery({
    queryKey: keyOf("posts", brand, study, text, sort, columns, young),
    placeholderData: keptWithin("posts", brand, study, text),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      unwrap(
        api.GET("/api/brands/{brand}/results/posts", {
          params: {
            path: { brand },
            query: { ...study, sort, text, columns: columns.join(","), young, cursor: pageParam, limit: PAGE },
          },
        }),
      ),
    getNextPageParam: (last) => last.next ?? undefined,
  });
}

export function useTotals(brand: string, study: Study, table: Omit<Table, "sort">, by: string | null) {
  return useQuery({
    queryKey: keyOf("totals", brand, study, by, table),
    placeholderData: keptWithin("totals", brand, study, by),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/posts/totals", {
          params: {
            path: { brand },
            query: {
              ...study,
              text: table.text,
              columns: table.columns.join(","),
              by: (by ?? undefined) as never,
            },
          },
        }),
      ),
  });
}

export function useTop(brand: string, study: Study, metric: string, end: "top" | "bottom") {
  return useQuery({
    queryKey: keyOf("top", brand, study, metric, end),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/posts/top", {
          params: { path: { brand }, query: { ...study, metric, end, limit: 14 } },
        }),
      ),
  });
}

export function usePost(brand: string, id: number) {
  return useQuery({
    queryKey: keyOf("post", brand, id),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/results/posts/{id}", { params: { path: { brand, id } } })),
  });
}

export function useSetCampaign(brand: string, id: number) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (campaign_id: number | null) =>
      unwrap(
        api.PATCH("/api/brands/{brand}/results/posts/{id}", { params: { path: { brand, id } }, body: { campaign_id } }),
      ),
    onSuccess: () => changed("campaigns"),
  });
}

/** Posts that are out into a campaign together, or out of any. */
export function usePutIntoCampaign(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ campaign, posts }: { campaign: number | null; posts: number[] }) =>
      campaign === null
        ? unwrap(api.POST("/api/brands/{brand}/plan/campaigns/none", { params: { path: { brand } }, body: { posts } }))
        : unwrap(
            api.POST("/api/brands/{brand}/plan/campaigns/{id}", {
              params: { path: { brand, id: campaign } },
              body: { posts },
            }),
          ),
    onSuccess: () => changed("campaigns", "plan"),
  });
}

export function useSpikes(brand: string, study: Study, metric: string) {
  return useQuery({
    queryKey: keyOf("spikes", brand, study, metric),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/spikes", {
          params: { path: { brand }, query: { ...study, metric } },
        }),
      ),
  });
}

export function useBehind(brand: string, study: Study, metric: string, day: string | null) {
  return useQuery({
    queryKey: keyOf("behind", brand, study, metric, day),
    enabled: day !== null,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/spikes/behind", {
          params: { path: { brand }, query: { ...study, metric, day: day ?? "" } },
        }),
      ),
  });
}

export function useGroups(brand: string, study: Study, by: string, metric: string, isAsked = true) {
  return useQuery({
    enabled: isAsked,
    queryKey: keyOf("groups", brand, study, by, metric),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/groups", {
          params: { path: { brand }, query: { ...study, by: by as never, metric } },
        }),
      ),
  });
}

export function useAudience(brand: string, study: Study) {
  return useQuery({
    queryKey: keyOf("audience", brand, study),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/results/audience", { params: { path: { brand }, query: study } })),
  });
}

/** A new draft from a post that is out, with links of its own. */
export function useWriteAgain(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.POST("/api/brands/{brand}/plan/again/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("plan", "links"),
  });
}

/** The audience's page as a PDF, made by the worker and saved under its name. */
export function useAudiencePdf(brand: string, study: Study) {
  return usePrinting(brand, () =>
    unwrap(api.POST("/api/brands/{brand}/results/audience/pdf", { params: { path: { brand }, query: study } })),
  );
}

export function useTraffic(brand: string, study: Study) {
  return useQuery({
    queryKey: keyOf("traffic", brand, study),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/site/traffic", { params: { path: { brand }, query: study } })),
  });
}

/** The links and referrers that made a day's clicks. */
export function useClicksBehind(brand: string, study: Study, day: string | null) {
  return useQuery({
    queryKey: keyOf("clicks behind", brand, study, day),
    enabled: day !== null,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/links/behind", {
          params: { path: { brand }, query: { ...study, day: day ?? "" } },
        }),
      ),
  });
}

/** The tracked links that a post carries. */
export function useLinksOfPost(brand: string, post: number) {
  return useQuery({
    queryKey: keyOf("links of a post", brand, post),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/links", { params: { path: { brand }, query: { post, age: 72 } } })),
  });
}

export function useFindings(brand: string) {
  return useQuery({
    queryKey: keyOf("findings", brand),
    enabled: useLater(),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/results/findings", { params: { path: { brand } } })),
    refetchInterval: (query) => (query.state.data?.is_looking ? moving(1000) : false),
  });
}

export function useFindAgain(brand: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => unwrap(api.POST("/api/brands/{brand}/results/findings", { params: { path: { brand } } })),
    onSuccess: (found) => client.setQueryData(keyOf("findings", brand), found),
  });
}

export function useSetFindingState(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, state }: { id: number; state: Finding["state"] }) =>
      unwrap(
        api.PUT("/api/brands/{brand}/results/findings/{id}", { params: { path: { brand, id } }, body: { state } }),
      ),
    onSuccess: () => changed("findings"),
  });
}

export function useCatalogue(brand: string) {
  return useQuery({
    queryKey: keyOf("metrics", brand),
    enabled: useLater(),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/results/metrics", { params: { path: { brand } } })),
  });
}

export function useTriedFormula(brand: string, study: Study, formula: string) {
  return useQuery({
    queryKey: keyOf("tried", brand, study, formula),
    enabled: formula.trim() !== "",
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/metrics/tried", {
          params: { path: { brand }, query: { ...study, formula } },
        }),
      ),
  });
}

export function useSaveMetric(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, ...body }: Schemas["OwnMetricInputRequest"] & { id: number | null }) =>
      id === null
        ? unwrap(api.POST("/api/brands/{brand}/results/metrics", { params: { path: { brand } }, body }))
        : unwrap(api.PUT("/api/brands/{brand}/results/metrics/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: () => changed("metrics"),
  });
}

export function useRemoveMetric(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/results/metrics/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("metrics"),
  });
}

export function useTagPosts(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: { posts: number[]; add?: string[]; take_off?: number[] }) =>
      unwrap(api.POST("/api/brands/{brand}/results/posts/tags", { params: { path: { brand } }, body })),
    onSuccess: () => changed("tags"),
  });
}

export function useSaveTag(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, ...body }: { id: number | null; name: string; colour: number }) =>
      id === null
        ? unwrap(api.POST("/api/brands/{brand}/results/tags", { params: { path: { brand } }, body }))
        : unwrap(api.PUT("/api/brands/{brand}/results/tags/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: () => changed("tags"),
  });
}

export function useRemoveTag(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/results/tags/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("tags"),
  });
}

export function useMergeTag(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, into }: { id: number; into: number }) =>
      unwrap(
        api.POST("/api/brands/{brand}/results/tags/{id}/merge", { params: { path: { brand, id } }, body: { into } }),
      ),
    onSuccess: () => changed("tags"),
  });
}

export type Rule = Schemas["RuleQueryRequest"];

export function useTriedRule(brand: string, kind: Rule["kind"], value: string) {
  return useQuery({
    queryKey: keyOf("caught", brand, kind, value),
    enabled: value.trim() !== "",
    retry: false,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/tags/caught", { params: { path: { brand }, query: { kind, value } } }),
      ),
  });
}

export function useAddRule(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, ...body }: Rule & { id: number }) =>
      unwrap(api.POST("/api/brands/{brand}/results/tags/{id}/rules", { params: { path: { brand, id } }, body })),
    onSuccess: () => changed("tags"),
  });
}

export function useRemoveRule(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, rule, keeps_posts }: { id: number; rule: number; keeps_posts: boolean }) =>
      unwrap(
        api.DELETE("/api/brands/{brand}/results/tags/{id}/rules/{rule}", {
          params: { path: { brand, id, rule }, query: { keeps_posts } },
        }),
      ),
    onSuccess: () => changed("tags"),
  });
}

export type Target = Schemas["Target"];

export function useTargets(brand: string) {
  return useQuery({
    queryKey: keyOf("targets", brand),
    enabled: useLater(),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/results/targets", { params: { path: { brand } } })),
  });
}

export function useDropTarget(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/results/targets/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("targets"),
  });
}

export type SeasonReturn = Schemas["SeasonReturn"];

/** Whether a post comes back with its season, and its link's busiest weeks. */
export function useSeason(brand: string, id: number, isAsked: boolean) {
  return useQuery({
    queryKey: keyOf("season", brand, id),
    enabled: isAsked,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/again/{id}/season", { params: { path: { brand, id } } })),
  });
}

export function useSetSeason(brand: string, id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["SeasonReturnInputRequest"]) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/again/{id}/season", { params: { path: { brand, id } }, body })),
    onSuccess: (season) => client.setQueryData(keyOf("season", brand, id), season),
  });
}

export function useLeaveSeason(brand: string, id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () =>
      unwrap(api.DELETE("/api/brands/{brand}/plan/again/{id}/season", { params: { path: { brand, id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: keyOf("season", brand, id) }),
  });
}
