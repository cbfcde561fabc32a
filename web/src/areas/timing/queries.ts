/** What Timing asks the server. */

import { useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import { keptWithin } from "../../lib/keep";
import type { Question } from "./question";

export type Week = Schemas["Timing"];
export type Hour = Schemas["Hour"];
export type Stretch = Schemas["Stretch"];
export type Held = Schemas["Held"];
export type Rhythm = Schemas["Rhythm"];
export type Rules = Schemas["RhythmRules"];
export type Proposal = Schemas["RhythmProposal"];
export type Trial = Schemas["Trial"];
export type PlannedTick = Schemas["PlannedTick"];

export function useWeek(brand: string, question: Question) {
  return useQuery({
    queryKey: keyOf("timing", brand, question),
    placeholderData: keptWithin("timing", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/timing", { params: { path: { brand }, query: question } })),
  });
}

/** The hours of one profile, for who is writing. */
export function useBestHours(brand: string, profile?: number) {
  const question = { profile: String(profile ?? "") };
  return useQuery({
    queryKey: keyOf("timing", brand, question),
    enabled: profile !== undefined,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/timing", { params: { path: { brand }, query: question } })),
  });
}

/** Standing slots of some profiles in the days ahead. */
export function useSlots(brand: string, profile: number[], days = 14) {
  return useQuery({
    queryKey: keyOf("slots", brand, profile, days),
    enabled: profile.length > 0,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/timing/slots", { params: { path: { brand }, query: { profile, days } } })),
  });
}

export function useRhythms(brand: string) {
  return useQuery({
    queryKey: keyOf("rhythms", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/timing/rhythms", { params: { path: { brand } } })),
  });
}

export function usePropose(brand: string) {
  return useMutation({
    mutationFn: (body: Schemas["ProposeRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/timing/rhythms/propose", { params: { path: { brand } }, body })),
  });
}

/** What would be proposed for some profiles, asked for by itself. */
export function useProposed(brand: string, body: Schemas["ProposeRequest"] | null) {
  return useQuery({
    queryKey: keyOf("proposed", brand, body),
    enabled: body !== null,
    staleTime: Infinity,
    queryFn: () =>
      unwrap(
        api.POST("/api/brands/{brand}/timing/rhythms/propose", {
          params: { path: { brand } },
          body: body as Schemas["ProposeRequest"],
        }),
      ),
  });
}

export function useKeepRhythm(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ profile, ...body }: Schemas["KeepRhythmRequest"] & { profile: number }) =>
      unwrap(api.PUT("/api/brands/{brand}/timing/rhythms/{profile}", { params: { path: { brand, profile } }, body })),
    onSettled: () => changed("rhythms"),
  });
}

export function useTrials(brand: string) {
  return useQuery({
    queryKey: keyOf("trials", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/timing/trials", { params: { path: { brand } } })),
  });
}

/** How long a trial would take. */
export function useTrialLength(brand: string, body: Schemas["LengthQueryRequest"] | null) {
  return useQuery({
    queryKey: keyOf("trial length", brand, body),
    enabled: body !== null,
    staleTime: Infinity,
    queryFn: () =>
      unwrap(
        api.POST("/api/brands/{brand}/timing/trials/length", {
          params: { path: { brand } },
          body: body as Schemas["LengthQueryRequest"],
        }),
      ),
  });
}

export function useStartTrial(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["StartTrialRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/timing/trials", { params: { path: { brand } }, body })),
    onSuccess: () => changed("trials"),
  });
}

export function useStopTrial(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, keep }: { id: number; keep: "" | "first" | "second" }) =>
      unwrap(
        api.POST("/api/brands/{brand}/timing/trials/{id}/stop", { params: { path: { brand, id } }, body: { keep } }),
      ),
    onSettled: () => changed("trials", "rhythms"),
  });
}

/** Put a planned post at another time. */
export function useMovePost(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, ...body }: { id: number; edition: number; scheduled_at: string }) =>
      unwrap(api.POST("/api/brands/{brand}/plan/{id}/move", { params: { path: { brand, id } }, body })),
    onSettled: () => changed("plan"),
  });
}

/** An empty draft at every free standing slot. */
export function useFillSlots(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["FillRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/plan/fill", { params: { path: { brand } }, body })),
    onSuccess: () => changed("plan"),
  });
}
