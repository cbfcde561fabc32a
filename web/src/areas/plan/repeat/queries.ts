/** What repeating asks the server. */

import { useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../../api/client";
import { keyOf, useChanged } from "../../../api/keys";
import { keptWithin } from "../../../lib/keep";

export type RepetitionRule = Schemas["RepetitionRuleRequest"];
export type RepetitionPreview = Schemas["RepetitionPreview"];
export type NthTime = Schemas["NthTime"];

export function useRepetitionPreview(brand: string, planned: number, asked: RepetitionRule | null) {
  return useQuery({
    queryKey: keyOf("repetition preview", brand, planned, asked),
    placeholderData: keptWithin("repetition preview", brand, planned),
    enabled: asked !== null,
    retry: false,
    queryFn: () =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/{id}/repetition/preview", {
          params: { path: { brand, id: planned } },
          body: asked as RepetitionRule,
        }),
      ),
  });
}

export function useRepeat(brand: string, planned: number) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["RepetitionInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/plan/{id}/repetition", { params: { path: { brand, id: planned } }, body })),
    onSuccess: () => changed("plan"),
  });
}

export function useRepetition(brand: string, id: number | null) {
  return useQuery({
    queryKey: keyOf("repetition", brand, id),
    enabled: id !== null,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/plan/repetitions/{id}", { params: { path: { brand, id: id ?? 0 } } })),
  });
}

export function useEndRepetition(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/plan/repetitions/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("plan"),
  });
}
