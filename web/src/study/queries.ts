/** What the shell asks for: the session, the brand, the networks, the minute line. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, hasToken, ProblemError, type Schemas, unwrap } from "../api/client";
import { ACCOUNT, DEMO, keyOf, NETWORKS, SESSION, useChanged } from "../api/keys";
import { every, moving } from "../api/live";
import { addDays, type Day } from "../lib/days";
import { keptWithin } from "../lib/keep";
import { knownPasskey } from "../lib/passkeys";
import { useToast } from "../ui/Toast";
import { noteSignedIn } from "./ended";
import { useLater } from "./later";

export function useSession() {
  return useQuery({
    queryKey: SESSION,
    queryFn: () => unwrap(api.GET("/api/session")),
    retry: false,
    staleTime: Infinity,
  });
}

/** The token that proves where a change comes from may have gone with the session: asking brings a new one. */
async function withToken() {
  if (!hasToken()) await api.GET("/api/session");
}

function useSignedIn() {
  const client = useQueryClient();
  return (session: Schemas["Session"]) => {
    noteSignedIn();
    client.setQueryData(SESSION, session);
  };
}

/** Signing in with a password; answers with a session, or with what is asked for after it. */
export function useSignIn() {
  const signedIn = useSignedIn();
  return useMutation({
    mutationFn: async (body: { email: string; password: string }) => {
      await withToken();
      return unwrap(api.POST("/api/session", { body }));
    },
    onSuccess: (answer) => "email" in answer && signedIn(answer),
  });
}

/** Going on with a code of one's device, or one for recovery. */
export function useSecondFactor() {
  const signedIn = useSignedIn();
  return useMutation({
    mutationFn: (code: string) => unwrap(api.POST("/api/session/second", { body: { code } })),
    onSuccess: signedIn,
  });
}

/** Signing in with a passkey: after a password, or in place of one. */
export function usePasskeySignIn() {
  const signedIn = useSignedIn();
  return useMutation({
    mutationFn: async () => {
      await withToken();
      const { options } = await unwrap(api.POST("/api/session/passkey/options"));
      const credential = await knownPasskey(options);
      return unwrap(api.POST("/api/session/passkey", { body: { credential } }));
    },
    onSuccess: signedIn,
  });
}

/** Having a letter sent that sets a new password; and setting it. */
export function useAskForReset() {
  return useMutation({
    mutationFn: async (email: string) => {
      await withToken();
      return unwrap(api.POST("/api/password-reset", { body: { email } }));
    },
  });
}

export function useResetPassword() {
  return useMutation({
    mutationFn: async (body: { key: string; password: string }) => {
      await withToken();
      return unwrap(api.POST("/api/password-reset/new", { body }));
    },
  });
}

/** Taking an address that was written to as the one to sign in with. */
export function useTakeAddress() {
  return useMutation({
    mutationFn: async (key: string) => {
      await withToken();
      return unwrap(api.POST("/api/account/address/taken", { body: { key } }));
    },
  });
}

/** What an invitation asks one to. */
export function useInvitation(key: string) {
  return useQuery({
    queryKey: ["invitation", key],
    retry: false,
    queryFn: async () => {
      await withToken();
      return unwrap(api.POST("/api/invitations/seen", { body: { key } }));
    },
  });
}

export function useJoin() {
  const signedIn = useSignedIn();
  return useMutation({
    mutationFn: async (body: Schemas["JoinRequest"]) => {
      await withToken();
      return unwrap(api.POST("/api/invitations/taken", { body }));
    },
    onSuccess: signedIn,
  });
}

/** Name, language, zone and theme of who is signed in. */
export function useChangeAccount() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["ChangedAccountRequest"]) => unwrap(api.PUT("/api/account", { body })),
    onSuccess: (account) => {
      client.setQueryData(ACCOUNT, account);
      return client.invalidateQueries({ queryKey: SESSION });
    },
  });
}

/** The first person and brand of an installation. */
export function useBegin() {
  return useMutation({
    mutationFn: async (body: Schemas["BeginRequest"]) => {
      await withToken();
      return unwrap(api.POST("/api/begin", { body }));
    },
  });
}

export function useSignOut(onDone = () => window.location.assign("/")) {
  return useMutation({
    mutationFn: () => unwrap(api.DELETE("/api/session")),
    onSuccess: onDone,
  });
}

export function useBrandQuery(brand: string) {
  return useQuery({
    queryKey: keyOf("brand", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}", { params: { path: { brand } } })),
    staleTime: 10 * 60_000,
  });
}

export function useChangeBrand(brand: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["BrandInputRequest"]) =>
      unwrap(api.PUT("/api/brands/{brand}", { params: { path: { brand } }, body })),
    onSuccess: () => client.invalidateQueries(),
  });
}

export function useAddBrand() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["BrandInputRequest"]) => unwrap(api.POST("/api/brands", { body })),
    onSuccess: () => client.invalidateQueries({ queryKey: SESSION }),
  });
}

export function useNetworksQuery() {
  return useQuery({ queryKey: NETWORKS, queryFn: () => unwrap(api.GET("/api/networks")), staleTime: Infinity });
}

/** The half-year up to now, or the time around days further back. */
export function useLine(brand: string, days: { first: Day; last: Day } | null = null) {
  return useQuery({
    queryKey: keyOf("line", brand, days),
    // Drawn by its own days, so that it may stand while it is carried further.
    placeholderData: keptWithin("line", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/line", { params: { path: { brand }, query: days ?? {} } })),
    refetchInterval: every(60_000),
  });
}

export function usePlannedAhead(brand: string, first: string, last: string) {
  return useQuery({
    queryKey: keyOf("plan", brand, first, last),
    enabled: useLater(),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan", { params: { path: { brand }, query: { first, last } } })),
    refetchInterval: every(30_000),
  });
}

export function useProfiles(brand: string) {
  return useQuery({
    queryKey: keyOf("sources", brand),
    enabled: useLater(),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sources", { params: { path: { brand } } })),
  });
}

/** Posts of the last two years, the newest first. */
export function useFoundPosts(brand: string, text: string, today: Day) {
  return useQuery({
    queryKey: keyOf("found", brand, text),
    enabled: text.length > 2,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/posts", {
          params: {
            path: { brand },
            query: { text, limit: 8, sort: "-published_at", first: addDays(today, -729), last: today },
          },
        }),
      ),
  });
}

export function useFoundLinks(brand: string, isOpen: boolean) {
  return useQuery({
    queryKey: keyOf("links found", brand),
    enabled: isOpen,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/links", { params: { path: { brand } } })),
  });
}

/** The demo beside one's own brands, or how far it is. */
export function useDemo() {
  const client = useQueryClient();
  return useQuery({
    queryKey: DEMO,
    queryFn: async () => {
      const told = await unwrap(api.GET("/api/account/demo"));
      const known = client.getQueryData<Schemas["Demo"]>(DEMO);
      // With it a brand comes or goes, or is full of a sudden: whatever is open of it is asked again.
      if (known && known.state !== told.state)
        void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== DEMO[0] });
      return told;
    },
    refetchInterval: ({ state }) => (["waiting", "going"].includes(state.data?.state ?? "") ? moving(2000) : false),
  });
}

export function useAskForDemo() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => unwrap(api.POST("/api/account/demo")),
    onSuccess: (told) => {
      client.setQueryData(DEMO, told);
      return client.invalidateQueries({ queryKey: SESSION });
    },
  });
}

export function useTakeDemoAway() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => unwrap(api.DELETE("/api/account/demo")),
    onSuccess: () => client.invalidateQueries({ queryKey: SESSION }),
  });
}

/** How the brand gets its first figures, and how far it is with that. */
export function useFirstSteps(brand: string) {
  return useQuery({
    queryKey: keyOf("first steps", brand),
    staleTime: 60_000,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/first-steps", { params: { path: { brand } } })),
  });
}

/** What the person chose to see of the brand, by name. */
export function usePreferences(brand: string) {
  return useQuery({
    queryKey: keyOf("preferences", brand),
    staleTime: Infinity,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/preferences", { params: { path: { brand } } })),
  });
}

/** Keep a choice: shown at once, stored behind. */
export function useKeepPreference(brand: string) {
  const client = useQueryClient();
  const say = useToast();
  const queryKey = keyOf("preferences", brand);
  return useMutation({
    mutationFn: ({ name, value }: { name: string; value: unknown }) =>
      unwrap(api.PUT("/api/brands/{brand}/preferences/{name}", { params: { path: { brand, name } }, body: { value } })),
    onMutate: ({ name, value }) =>
      // Where nothing has come yet there is nothing to change: the other choices must not be taken for none.
      client.setQueryData(
        queryKey,
        (old: { values: Record<string, unknown> } | undefined) => old && { values: { ...old.values, [name]: value } },
      ),
    onError: (error) => {
      // What is said of forms when nobody answers, that their input is kept, is not so here.
      const isOffline = error instanceof ProblemError && error.kind === "offline";
      say(`${isOffline ? "Dakika cannot be reached." : error.message} The choice is as it was before.`, "wrong");
    },
    // Asked again where it failed, and where what is still on its way may be older than the choice.
    onSettled: async (_, error) => {
      const known = client.getQueryState(queryKey);
      if (!error && known?.data !== undefined && known.fetchStatus === "idle") return;
      await client.cancelQueries({ queryKey });
      await client.invalidateQueries({ queryKey });
    },
  });
}

export function useTags(brand: string) {
  return useQuery({
    queryKey: keyOf("tags", brand),
    enabled: useLater(),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/results/tags", { params: { path: { brand } } })),
  });
}

export function useCampaigns(brand: string) {
  return useQuery({
    queryKey: keyOf("campaigns", brand),
    enabled: useLater(),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/campaigns", { params: { path: { brand } } })),
  });
}

/** The catalogue, for finding a metric by its name. */
export function useMetrics(brand: string, isOn: boolean) {
  return useQuery({
    queryKey: keyOf("metrics", brand),
    enabled: isOn,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/results/metrics", { params: { path: { brand } } })),
  });
}

/** What one is told of a brand. */
export function useNotifications(brand: string) {
  return useQuery({
    queryKey: keyOf("notifications", brand),
    enabled: useLater(),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/notifications", { params: { path: { brand } } })),
    refetchInterval: every(60_000),
  });
}

/** Take some as read, or all of them. */
export function useRead(brand: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (ids: number[] | null) =>
      unwrap(
        api.POST("/api/brands/{brand}/notifications", {
          params: { path: { brand } },
          body: ids === null ? {} : { ids },
        }),
      ),
    onSuccess: (told) => client.setQueryData(keyOf("notifications", brand), told),
  });
}

/** A ticket to listen with; an empty address where nothing is told. */
export const askTicket = () => unwrap(api.GET("/api/events"));

/** Studies that the team keeps under a name. */
export function useKeptStudies(brand: string, isOn: boolean) {
  return useQuery({
    queryKey: keyOf("kept studies", brand),
    enabled: isOn,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/studies", { params: { path: { brand } } })),
  });
}

export function useKeepStudy(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["KeepStudyRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/studies", { params: { path: { brand } }, body })),
    onSuccess: () => changed("studies"),
  });
}

export function useForgetStudy(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/studies/{id}", { params: { path: { brand, id } } })),
    onSettled: () => changed("studies"),
  });
}

/** Groups of ideas, and how many ideas stand where. */
export function useIdeaGroups(brand: string) {
  return useQuery({
    queryKey: keyOf("idea groups", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/ideas/groups", { params: { path: { brand } } })),
  });
}

type IdeaContent = Schemas["IdeaContentRequest"];
/** Where an idea comes from; the way back and a picture where there are any. */
export type IdeaOrigin = Partial<Schemas["IdeaOriginRequest"]> & Pick<Schemas["IdeaOriginRequest"], "origin">;

/** Keeps an idea, from nothing or from where it comes. */
export function useKeepIdea(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ content, origin }: { content: Partial<IdeaContent>; origin: IdeaOrigin }) =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/ideas", {
          params: { path: { brand } },
          body: {
            content: { title: "", note: "", page: "", ...content },
            origin: { view: "", picture: "", ...origin },
          },
        }),
      ),
    onSuccess: () => changed("ideas"),
  });
}

/** Who works for the brand. */
export function usePeople(brand: string) {
  return useQuery({
    queryKey: keyOf("people", brand),
    staleTime: 300_000,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/people", { params: { path: { brand } } })),
  });
}
