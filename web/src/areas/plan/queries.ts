/** What Plan asks the server. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import { every } from "../../api/live";
import { keptWithin } from "../../lib/keep";

export type Planned = Schemas["PlannedPost"];
export type PlannedInput = Schemas["PlannedPostInputRequest"];
export type Check = Schemas["Check"];

export type ChannelRules = Schemas["ChannelRulesRequest"];
export type Entry = Schemas["CalendarEntry"];
export type Out = Schemas["CalendarPost"];
export type Chosen = {
  profiles?: number[];
  networks?: string[];
  campaigns?: number[];
  states?: Schemas["PlanStateEnum"][];
  text?: string;
};

export function usePlan(brand: string, first: string, last: string, chosen: Chosen = {}) {
  return useQuery({
    queryKey: keyOf("plan", brand, first, last, chosen),
    placeholderData: keptWithin("plan", brand, first, last),
    refetchInterval: every(5_000),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/plan", { params: { path: { brand }, query: { first, last, ...chosen } } })),
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

type Content = Pick<PlannedInput, "common" | "versions">;

export function useChecks(brand: string, content: Content) {
  return useQuery({
    queryKey: keyOf("checks", brand, content),
    placeholderData: keptWithin("checks", brand),
    enabled: content.versions.length > 0,
    staleTime: Infinity,
    queryFn: () => unwrap(api.POST("/api/brands/{brand}/plan/check", { params: { path: { brand } }, body: content })),
  });
}

/** What a network asks for with a post of a profile: boards, buttons. */
export function useOptions(brand: string, profile: number, isAsked: boolean) {
  return useQuery({
    queryKey: keyOf("plan options", brand, profile),
    enabled: isAsked,
    staleTime: 600_000,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/plan/options/{id}", { params: { path: { brand, id: profile } } })),
  });
}

/** What a page says of itself, as networks show it beside a link. */
export function usePage(brand: string, address: string | undefined) {
  return useQuery({
    queryKey: keyOf("page", brand, address),
    enabled: address !== undefined,
    staleTime: 600_000,
    retry: false,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/plan/preview", { params: { path: { brand }, query: { address: address ?? "" } } }),
      ),
  });
}

export function useEmoji(brand: string, text: string) {
  return useQuery({
    queryKey: keyOf("emoji", brand, text),
    enabled: text.trim().length > 1,
    staleTime: Infinity,
    placeholderData: keptWithin("emoji", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/emoji", { params: { path: { brand }, query: { text } } })),
  });
}

export function useSubscribe(brand: string) {
  return useMutation({
    mutationFn: () => unwrap(api.POST("/api/brands/{brand}/plan/subscription", { params: { path: { brand } } })),
  });
}

export function useUnsubscribe(brand: string) {
  return useMutation({
    mutationFn: () => unwrap(api.DELETE("/api/brands/{brand}/plan/subscription", { params: { path: { brand } } })),
  });
}

export function useFollowCalendar(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: { address: string; name: string }) =>
      unwrap(api.POST("/api/brands/{brand}/plan/calendars", { params: { path: { brand } }, body })),
    onSuccess: () => changed("plan"),
  });
}

export function useLeaveCalendar(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/plan/calendars/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("plan"),
  });
}

/** Channels that a person publishes to, with what they take. */
export function useChannels(brand: string, isAsked: boolean) {
  return useQuery({
    queryKey: keyOf("channels", brand),
    enabled: isAsked,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/channels", { params: { path: { brand } } })),
  });
}

export function useChannelRules(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, rules }: { id: number; rules: ChannelRules | null }) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/channels/{id}", { params: { path: { brand, id } }, body: { rules } })),
    onSuccess: () => changed("plan", "sources"),
  });
}

/** What one wrote and did not save, on whatever machine, and who else has the post open. */
export function useWriting(brand: string, planned: number | undefined, isAsked: boolean) {
  return useQuery({
    queryKey: keyOf("writing", brand, planned ?? "new"),
    enabled: isAsked,
    // Who else is here is told by nothing but asking.
    refetchInterval: planned === undefined ? false : 10_000,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/plan/writing", {
          params: { path: { brand }, query: planned === undefined ? {} : { planned } },
        }),
      ),
  });
}

export function useKeepWriting(brand: string, planned: number | undefined) {
  return useMutation({
    mutationFn: (content: object | null) =>
      unwrap(
        api.PUT("/api/brands/{brand}/plan/writing", {
          params: { path: { brand } },
          body: { planned: planned ?? null, content },
        }),
      ),
  });
}

export function useLeaveWriting(brand: string, planned: number | undefined) {
  return useMutation({
    mutationFn: () =>
      unwrap(
        api.DELETE("/api/brands/{brand}/plan/writing", {
          params: { path: { brand }, query: planned === undefined ? {} : { planned } },
        }),
      ),
  });
}

/** What did not go out, and what is held back. */
export function useGoingOut(brand: string) {
  return useQuery({
    queryKey: keyOf("going out", brand),
    refetchInterval: every(5_000),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/going-out", { params: { path: { brand } } })),
  });
}

export function useSettle(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, what }: { id: number; what: "send" | "say_again" | "leave" }) =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/versions/{id}/settle", { params: { path: { brand, id } }, body: { what } }),
      ),
    onSettled: () => changed("plan"),
  });
}

export function usePause(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: { profile: number | null; why: string }) =>
      unwrap(api.POST("/api/brands/{brand}/plan/pauses", { params: { path: { brand } }, body })),
    onSuccess: () => changed("plan"),
  });
}

export function useEndPause(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: { profile: number | null; send_overdue: boolean }) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/pauses", { params: { path: { brand } }, body })),
    onSuccess: () => changed("plan"),
  });
}

export function useByHand(brand: string) {
  const client = useQueryClient();
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, address }: { id: number; address: string }) =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/versions/{id}/by-hand", {
          params: { path: { brand, id } },
          body: { address },
        }),
      ),
    onSuccess: (saved) => {
      client.setQueryData(keyOf("planned", brand, saved.id), saved);
      void changed("plan");
    },
  });
}

export function useAddChannel(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: { name: string; rules: ChannelRules | null }) =>
      unwrap(api.POST("/api/brands/{brand}/plan/channels", { params: { path: { brand } }, body })),
    onSuccess: () => changed("sources"),
  });
}

export function useBrandsToHandTo(brand: string, id: number, isAsked: boolean) {
  return useQuery({
    queryKey: keyOf("brands to hand to", brand, id),
    enabled: isAsked,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/{id}/hand", { params: { path: { brand, id } } })),
  });
}

export function useHand(brand: string) {
  return useMutation({
    mutationFn: ({ id, brands }: { id: number; brands: string[] }) =>
      unwrap(api.POST("/api/brands/{brand}/plan/{id}/hand", { params: { path: { brand, id } }, body: { brands } })),
  });
}

export function useMove(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, at, edition }: { id: number; at: string; edition: number }) =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/{id}/move", {
          params: { path: { brand, id } },
          body: { scheduled_at: at, edition },
        }),
      ),
    onSettled: () => changed("plan"),
  });
}

export type SeveralChange = Schemas["SeveralInputRequest"];

export function useChangeSeveral(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: SeveralChange) =>
      unwrap(api.POST("/api/brands/{brand}/plan/several", { params: { path: { brand } }, body })),
    onSettled: () => changed("plan"),
  });
}

export function useUndoSeveral(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.POST("/api/brands/{brand}/plan/several/{id}/undo", { params: { path: { brand, id } } })),
    onSettled: () => changed("plan"),
  });
}

export function useAddNote(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["CalendarNoteInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/plan/notes", { params: { path: { brand } }, body })),
    onSuccess: () => changed("plan"),
  });
}

export function useRemoveNote(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/plan/notes/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("plan"),
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
    mutationFn: ({ id, at, edition, grace = 0 }: { id: number; at: string | null; edition: number; grace?: number }) =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/{id}/schedule", {
          params: { path: { brand, id } },
          body: { scheduled_at: at, edition, grace },
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
