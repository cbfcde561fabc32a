/** What Site asks the server. */

import { useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import { moving } from "../../api/live";
import type { Study } from "../../study/study";

export type Attribution = Schemas["Attribution"];
export type Funnel = Schemas["Funnel"];
export type Goal = Schemas["Goal"];
export type Sites = Schemas["Sites"];

export function useSites(brand: string) {
  return useQuery({
    queryKey: keyOf("sites", brand),
    // While a log is read, its numbers grow.
    refetchInterval: (query) => (query.state.data?.logs.some(isMoving) ? moving(1_000) : false),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/site/sites", { params: { path: { brand } } })),
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
          api.POST("/api/brands/{brand}/site/sites/{id}/logs", {
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
        ? unwrap(api.PUT("/api/brands/{brand}/site/sites/{id}", { params: { path: { brand, id } }, body }))
        : unwrap(api.POST("/api/brands/{brand}/site/sites", { params: { path: { brand } }, body })),
    onSuccess: () => changed("sites"),
  });
}

export function useSaveGoal(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, body }: { id?: number; body: Schemas["GoalRequest"] }) =>
      id
        ? unwrap(api.PUT("/api/brands/{brand}/site/goals/{id}", { params: { path: { brand, id } }, body }))
        : unwrap(api.POST("/api/brands/{brand}/site/goals", { params: { path: { brand } }, body })),
    onSuccess: () => changed("sites"),
  });
}

export type Looked = Pick<Study, "first" | "last"> & { by: string; goal: number; window: number; stage: string };

export function useAttribution(brand: string, looked: Looked) {
  return useQuery({
    queryKey: keyOf("attribution", brand, looked),
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/site/attribution", {
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
        api.GET("/api/brands/{brand}/site/conversions", {
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
        api.GET("/api/brands/{brand}/site/conversions/{id}", {
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
        api.PATCH("/api/brands/{brand}/site/conversions/{id}", { params: { path: { brand, id } }, body: { stage } }),
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
        api.GET("/api/brands/{brand}/site/funnel", {
          params: { path: { brand }, query: { ...asked, by: asked.by as "network", age: 72 } },
        }),
      ),
  });
}
