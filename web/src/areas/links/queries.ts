/** What Links asks the server. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import type { Study } from "../../app/study";
import { keptWithin } from "../../lib/keep";

export type TrackedLink = Schemas["Link"];
export type OneLink = Schemas["OneLink"];
export type Figures = Schemas["ClickFigures"];
export type Share = Schemas["Share"];
export type Life = Schemas["Life"];
export type Draft = Schemas["DraftRequest"];
export type Rules = Schemas["Rules"];
export type LinkSettings = Schemas["ShownSettings"];
export type LinkPageData = Schemas["Page"];

type Asked = Pick<Study, "first" | "last" | "compare"> & { network?: string; campaign?: number; text?: string };

export function useLinks(brand: string, asked: Asked) {
  return useQuery({
    queryKey: keyOf("links", brand, asked),
    refetchInterval: 10_000,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/links", { params: { path: { brand }, query: { ...asked, age: 72 } } })),
  });
}

export function useLink(brand: string, id: number, { first, last, compare }: Study) {
  return useQuery({
    queryKey: keyOf("link", brand, id, first, last, compare),
    refetchInterval: 2_000,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/links/{id}", {
          params: { path: { brand, id }, query: { first, last, compare, age: 72 } },
        }),
      ),
  });
}

/** How a draft would come out; asked again while somebody types. */
export function useProposal(brand: string, draft: Schemas["PreviewRequest"], isOn: boolean) {
  return useQuery({
    queryKey: keyOf("link proposal", brand, draft),
    enabled: isOn,
    retry: false,
    placeholderData: keptWithin("link proposal", brand),
    queryFn: () => unwrap(api.POST("/api/brands/{brand}/links/preview", { params: { path: { brand } }, body: draft })),
  });
}

export function useCheck(brand: string) {
  return useMutation({
    mutationFn: (destination: string) =>
      unwrap(api.POST("/api/brands/{brand}/links/check", { params: { path: { brand } }, body: { destination } })),
  });
}

export function useMakeLink(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Draft) => unwrap(api.POST("/api/brands/{brand}/links", { params: { path: { brand } }, body })),
    onSuccess: () => changed("links"),
  });
}

export function useLookAtList(brand: string) {
  return useMutation({
    mutationFn: (body: Schemas["PasteRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/links/bulk/preview", { params: { path: { brand } }, body })),
  });
}

export function useMakeLinks(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (rows: Draft[]) =>
      unwrap(api.POST("/api/brands/{brand}/links/bulk", { params: { path: { brand } }, body: { rows } })),
    onSuccess: () => changed("links"),
  });
}

export function useChangeLink(brand: string, id: number) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["PatchedChangesRequest"]) =>
      unwrap(api.PATCH("/api/brands/{brand}/links/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: () => changed("links"),
  });
}

export function useLinkSettings(brand: string) {
  return useQuery({
    queryKey: keyOf("link settings", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/links/settings", { params: { path: { brand } } })),
  });
}

export function useSaveLinkSettings(brand: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["LinkSettingsRequest"]) =>
      unwrap(api.PUT("/api/brands/{brand}/links/settings", { params: { path: { brand } }, body })),
    onSuccess: (kept) => client.setQueryData(keyOf("link settings", brand), kept),
  });
}

export function useDomains(brand: string) {
  const changed = useChanged(brand);
  const path = { brand };
  return useMutation({
    mutationFn: async (act: { add: string } | { choose: number | null } | { remove: number }) => {
      if ("add" in act)
        return unwrap(api.POST("/api/brands/{brand}/links/domains", { params: { path }, body: { host: act.add } }));
      if ("choose" in act)
        return unwrap(api.PUT("/api/brands/{brand}/links/domains", { params: { path }, body: { id: act.choose } }));
      return unwrap(
        api.DELETE("/api/brands/{brand}/links/domains/{id}", { params: { path: { brand, id: act.remove } } }),
      );
    },
    onSuccess: () => changed("rules"),
  });
}

export function usePages(brand: string, { first, last }: Study) {
  return useQuery({
    queryKey: keyOf("link pages", brand, first, last),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/links/pages", { params: { path: { brand }, query: { first, last } } })),
  });
}

export function useSavePage(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, body }: { id?: number; body: Schemas["PageInputRequest"] }) =>
      id
        ? unwrap(api.PUT("/api/brands/{brand}/links/pages/{id}", { params: { path: { brand, id } }, body }))
        : unwrap(api.POST("/api/brands/{brand}/links/pages", { params: { path: { brand } }, body })),
    onSuccess: () => changed("pages"),
  });
}

export function useRemovePage(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/links/pages/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("pages"),
  });
}

export type Attribution = Schemas["Attribution"];
export type Funnel = Schemas["Funnel"];
export type Goal = Schemas["Goal"];
export type Sites = Schemas["Sites"];

export function useSites(brand: string) {
  return useQuery({
    queryKey: keyOf("link sites", brand),
    // While a log is read, its numbers grow.
    refetchInterval: (query) => (query.state.data?.logs.some(isMoving) ? 1_000 : false),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/links/sites", { params: { path: { brand } } })),
  });
}

export type AccessLog = Schemas["AccessLog"];

export const isMoving = (log: AccessLog) => log.state === "waiting" || log.state === "reading";

/** Bring logs in one after the other; told how many there were. */
export function useUploadLogs(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: async ({ site, files }: { site: number; files: File[] }) => {
      for (const file of files) {
        const body = new FormData();
        body.append("file", file);
        await unwrap(
          api.POST("/api/brands/{brand}/links/sites/{id}/logs", {
            params: { path: { brand, id: site } },
            body: body as unknown as { file: string },
            bodySerializer: (form) => form as unknown as FormData,
          }),
        );
      }
      return files.length;
    },
    onSettled: () => changed("sites"),
  });
}

export function useSaveSite(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, body }: { id?: number; body: Schemas["WebSiteRequest"] }) =>
      id
        ? unwrap(api.PUT("/api/brands/{brand}/links/sites/{id}", { params: { path: { brand, id } }, body }))
        : unwrap(api.POST("/api/brands/{brand}/links/sites", { params: { path: { brand } }, body })),
    onSuccess: () => changed("sites"),
  });
}

export function useSaveGoal(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, body }: { id?: number; body: Schemas["GoalRequest"] }) =>
      id
        ? unwrap(api.PUT("/api/brands/{brand}/links/goals/{id}", { params: { path: { brand, id } }, body }))
        : unwrap(api.POST("/api/brands/{brand}/links/goals", { params: { path: { brand } }, body })),
    onSuccess: () => changed("sites"),
  });
}

export type Looked = Pick<Study, "first" | "last"> & { by: string; goal: number; window: number; stage: string };

export function useAttribution(brand: string, looked: Looked) {
  return useQuery({
    queryKey: keyOf("attribution", brand, looked),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/links/attribution", {
          params: { path: { brand }, query: { ...looked, by: looked.by as "channel", age: 72 } },
        }),
      ),
  });
}

export function useConversions(brand: string, { first, last, goal }: Pick<Looked, "first" | "last" | "goal">) {
  return useQuery({
    queryKey: keyOf("conversions", brand, first, last, goal),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/links/conversions", {
          params: { path: { brand }, query: { first, last, goal, age: 72 } },
        }),
      ),
  });
}

export function useWay(brand: string, id: number | null, window: number) {
  return useQuery({
    queryKey: keyOf("conversion", brand, id, window),
    enabled: id !== null,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/links/conversions/{id}", {
          params: { path: { brand, id: id ?? 0 }, query: { window, age: 72 } },
        }),
      ),
  });
}

export function useChangeStage(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, stage }: { id: number; stage: string }) =>
      unwrap(
        api.PATCH("/api/brands/{brand}/links/conversions/{id}", { params: { path: { brand, id } }, body: { stage } }),
      ),
    onSuccess: () => changed("sites"),
  });
}

export function useFunnel(
  brand: string,
  asked: Pick<Study, "first" | "last" | "compare"> & { by: string; goal: number },
) {
  return useQuery({
    queryKey: keyOf("funnel", brand, asked),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/links/funnel", {
          params: { path: { brand }, query: { ...asked, by: asked.by as "network", age: 72 } },
        }),
      ),
  });
}
