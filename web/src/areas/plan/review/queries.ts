/** What saying yes asks the server: within the team, and as a guest. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../../api/client";
import { keyOf, useChanged } from "../../../api/keys";
import { every } from "../../../api/live";

export type Review = Schemas["Review"];
export type LogEntry = Schemas["LogEntry"];
export type Task = Schemas["Task"];
export type Rules = Schemas["ReviewRules"];
export type RemarkInput = Schemas["RemarkInputRequest"];
export type VerdictInput = Schemas["VerdictInputRequest"];

const at = (brand: string, id: number) => ({ params: { path: { brand, id } } });

export function useReviewRules(brand: string) {
  return useQuery({
    queryKey: keyOf("review rules", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/review-rules", { params: { path: { brand } } })),
  });
}

export function useSetReviewRules(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Rules) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/review-rules", { params: { path: { brand } }, body })),
    onSuccess: () => changed("plan"),
  });
}

export function useToReview(brand: string) {
  return useQuery({
    queryKey: keyOf("to review", brand),
    refetchInterval: every(10_000),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/to-review", { params: { path: { brand } } })),
  });
}

export function useReview(brand: string, id: number | undefined) {
  return useQuery({
    queryKey: keyOf("review", brand, id),
    enabled: id !== undefined,
    refetchInterval: every(5_000),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/{id}/review", at(brand, id ?? 0))),
  });
}

/** Who did what with a post. */
export function useLog(brand: string, id: number, isAsked: boolean) {
  return useQuery({
    queryKey: keyOf("log", brand, id),
    enabled: isAsked,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/{id}/log", at(brand, id))),
  });
}

/** What is done about a post under review; each is answered with the review as it is then. */
export function useReviewing(brand: string, id: number) {
  const client = useQueryClient();
  const changed = useChanged(brand);
  const onSuccess = (review: Review) => {
    client.setQueryData(keyOf("review", brand, id), review);
    changed("plan");
  };
  const say = useMutation({
    mutationFn: (body: VerdictInput) =>
      unwrap(api.POST("/api/brands/{brand}/plan/{id}/review", { ...at(brand, id), body })),
    onSuccess,
    // Somebody changed it meanwhile: what it is now stands there to be looked at.
    onError: () => client.invalidateQueries({ queryKey: keyOf("review", brand, id) }),
  });
  const remark = useMutation({
    mutationFn: (body: RemarkInput) =>
      unwrap(api.POST("/api/brands/{brand}/plan/{id}/remarks", { ...at(brand, id), body })),
    onSuccess,
  });
  const settle = useMutation({
    mutationFn: ({ remark: one, is_settled }: { remark: number; is_settled: boolean }) =>
      unwrap(
        api.PUT("/api/brands/{brand}/plan/{id}/remarks/{remark}", {
          params: { path: { brand, id, remark: one } },
          body: { is_settled },
        }),
      ),
    onSuccess,
  });
  const vote = useMutation({
    mutationFn: (value: number) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/{id}/vote", { ...at(brand, id), body: { value } })),
    onSuccess,
  });
  const looked = useMutation({
    mutationFn: () => unwrap(api.PUT("/api/brands/{brand}/plan/{id}/review", at(brand, id))),
  });
  return { say, remark, settle, vote, looked };
}

export function useSubmitPost(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, edition }: { id: number; edition: number }) =>
      unwrap(api.POST("/api/brands/{brand}/plan/{id}/submit", { ...at(brand, id), body: { edition } })),
    onSuccess: () => changed("plan"),
  });
}

export function useTasks(brand: string, asked: { mine?: boolean; planned?: number; is_done?: boolean }) {
  return useQuery({
    queryKey: keyOf("tasks", brand, asked),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/tasks", { params: { path: { brand }, query: asked } })),
  });
}

export function useAddTask(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["TaskInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/plan/tasks", { params: { path: { brand } }, body })),
    onSuccess: () => changed("tasks"),
  });
}

export function useFinishTask(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, is_done }: { id: number; is_done: boolean }) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/tasks/{id}/done", { ...at(brand, id), body: { is_done } })),
    onSuccess: () => changed("tasks"),
  });
}

export function useGuests(brand: string, isAsked: boolean) {
  return useQuery({
    queryKey: keyOf("guests", brand),
    enabled: isAsked,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/guests", { params: { path: { brand } } })),
  });
}

export function useInvite(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["GuestInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/plan/guests", { params: { path: { brand } }, body })),
    onSuccess: () => changed("guests"),
  });
}

export function useRevokeGuest(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) => unwrap(api.DELETE("/api/brands/{brand}/plan/guests/{id}", at(brand, id))),
    onSuccess: () => changed("guests"),
  });
}

// -- as a guest

const GUEST = "guest";

/** What a link opens; its key is traded for a cookie once, later the cookie is enough. */
export function useGuestPage(key: string) {
  return useQuery({
    queryKey: [GUEST, "page", key],
    retry: false,
    refetchInterval: 15_000,
    queryFn: () => (key ? unwrap(api.POST("/api/guest", { body: { key } })) : unwrap(api.GET("/api/guest/page", {}))),
  });
}

export function useGuestPost(id: number | undefined) {
  return useQuery({
    queryKey: [GUEST, "post", id],
    enabled: id !== undefined,
    queryFn: () => unwrap(api.GET("/api/guest/posts/{id}", { params: { path: { id: id ?? 0 } } })),
  });
}

export function useGuestReviewing(id: number) {
  const client = useQueryClient();
  const path = { params: { path: { id } } };
  const onSuccess = (review: Review) => {
    client.setQueryData([GUEST, "post", id], review);
    void client.invalidateQueries({ queryKey: [GUEST, "page"] });
  };
  const say = useMutation({
    mutationFn: (body: VerdictInput) => unwrap(api.POST("/api/guest/posts/{id}", { ...path, body })),
    onSuccess,
    onError: () => client.invalidateQueries({ queryKey: [GUEST] }),
  });
  const remark = useMutation({
    mutationFn: (body: RemarkInput) => unwrap(api.POST("/api/guest/posts/{id}/remarks", { ...path, body })),
    onSuccess,
  });
  const vote = useMutation({
    mutationFn: (value: number) => unwrap(api.PUT("/api/guest/posts/{id}/vote", { ...path, body: { value } })),
    onSuccess,
  });
  const looked = useMutation({ mutationFn: () => unwrap(api.PUT("/api/guest/posts/{id}", path)) });
  return { say, remark, vote, looked };
}
