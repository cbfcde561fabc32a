/** What Plan asks the server. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import { every } from "../../api/live";
import { keptWithin } from "../../lib/keep";

export type Planned = Schemas["PlannedPost"];
export type PlannedInput = Schemas["PlannedPostInputRequest"];
export type Check = Schemas["Check"];

export function usePlan(brand: string, first: string, last: string) {
  return useQuery({
    queryKey: keyOf("plan", brand, first, last),
    refetchInterval: every(5_000),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan", { params: { path: { brand }, query: { first, last } } })),
  });
}

export function usePlannedPost(brand: string, id: number | undefined) {
  return useQuery({
    queryKey: keyOf("planned", brand, id),
    enabled: id !== undefined,
    refetchInterval: every(3_000),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/{id}", { params: { path: { brand, id: id ?? 0 } } })),
  });
}

export function useChecks(brand: string, versions: { profile_id: number; text: string }[]) {
  return useQuery({
    queryKey: keyOf("checks", brand, versions),
    placeholderData: keptWithin("checks", brand),
    enabled: versions.length > 0,
    staleTime: Infinity,
    queryFn: () =>
      unwrap(api.POST("/api/brands/{brand}/plan/check", { params: { path: { brand } }, body: { versions } })),
  });
}

function useSettled(brand: string) {
  const client = useQueryClient();
  const changed = useChanged(brand);
  return (saved?: Planned) => {
    if (saved) client.setQueryData(keyOf("planned", brand, saved.id), saved);
    void changed("plan");
  };
}

export function useSavePost(brand: string) {
  const client = useQueryClient();
  const settled = useSettled(brand);
  return useMutation({
    mutationFn: ({ id, body }: { id?: number; body: PlannedInput }) =>
      id === undefined
        ? unwrap(api.POST("/api/brands/{brand}/plan", { params: { path: { brand } }, body }))
        : unwrap(api.PUT("/api/brands/{brand}/plan/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: settled,
    // Refused because somebody was faster: theirs is shown at once.
    onError: (_, { id }) => client.invalidateQueries({ queryKey: keyOf("planned", brand, id) }),
  });
}

export function useSchedulePost(brand: string) {
  const settled = useSettled(brand);
  return useMutation({
    mutationFn: ({ id, at, edition }: { id: number; at: string | null; edition: number }) =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/{id}/schedule", {
          params: { path: { brand, id } },
          body: { scheduled_at: at, edition },
        }),
      ),
    onSuccess: settled,
  });
}

export function useTakeBack(brand: string) {
  const settled = useSettled(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/plan/{id}/schedule", { params: { path: { brand, id } } })),
    onSuccess: settled,
  });
}

export function useDeletePost(brand: string) {
  const settled = useSettled(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/plan/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => settled(),
  });
}
