/** What the team's and one's own page ask. */

import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { ACCOUNT, keyOf, SESSION, TOKENS, useChanged } from "../../api/keys";
import { knownPasskey, newPasskey } from "../../lib/passkeys";
import type { Role } from "../../study/permissions";

export type Team = Schemas["Team"];
export type Member = Schemas["Member"];
export type Invitation = Schemas["Invitation"];
export type Account = Schemas["OwnAccount"];

const one = (brand: string, pk: number) => ({ params: { path: { brand, id: pk } } });

export function useTeam(brand: string) {
  return useQuery({
    queryKey: keyOf("team", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/team", { params: { path: { brand } } })),
  });
}

export function useInvite(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: { email: string; role: Role }) =>
      unwrap(api.POST("/api/brands/{brand}/team/invitations", { params: { path: { brand } }, body })),
    onSuccess: () => changed("team"),
  });
}

export function useInviteAgain(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (pk: number) => unwrap(api.POST("/api/brands/{brand}/team/invitations/{id}", one(brand, pk))),
    onSettled: () => changed("team"),
  });
}

export function useWithdraw(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (pk: number) => unwrap(api.DELETE("/api/brands/{brand}/team/invitations/{id}", one(brand, pk))),
    onSettled: () => changed("team"),
  });
}

export function useChangeRole(brand: string) {
  const changed = useChanged(brand);
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, role }: { id: number; role: Role }) =>
      unwrap(api.PUT("/api/brands/{brand}/team/{id}", { ...one(brand, id), body: { role } })),
    // Whoever changes their own role may other things from now on.
    onSuccess: async () => {
      await changed("team", "brand");
      await client.invalidateQueries({ queryKey: SESSION });
    },
  });
}

/** What is somebody's within a brand; one's own where nobody is named. */
export function useBelongings(brand: string, person: number | null) {
  return useQuery({
    queryKey: keyOf("belongings", brand, person),
    queryFn: () =>
      person === null
        ? unwrap(api.GET("/api/brands/{brand}/team/leaving", { params: { path: { brand } } }))
        : unwrap(api.GET("/api/brands/{brand}/team/{id}/leaving", one(brand, person))),
  });
}

export function useLeave(brand: string, person: number | null) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (to: number | null) =>
      person === null
        ? unwrap(api.POST("/api/brands/{brand}/team/leaving", { params: { path: { brand } }, body: { to } }))
        : unwrap(api.POST("/api/brands/{brand}/team/{id}/leaving", { ...one(brand, person), body: { to } })),
    // Who has left asks nothing of the brand any more.
    onSuccess: () => (person === null ? undefined : changed("team", "campaigns", "plan", "tasks", "links", "reports")),
  });
}

export type LogChosen = { person: string; subject: string; text: string; first: string; last: string };
export type LogEntry = Schemas["Happened"];

const asked = (chosen: LogChosen) => ({
  person: chosen.person === "" ? undefined : Number(chosen.person),
  subject: chosen.subject || undefined,
  text: chosen.text || undefined,
  first: chosen.first || undefined,
  last: chosen.last || undefined,
});

/** What happened, page by page. */
export function useLog(brand: string, chosen: LogChosen) {
  return useInfiniteQuery({
    queryKey: keyOf("brand log", brand, chosen),
    initialPageParam: "",
    queryFn: ({ pageParam }) =>
      unwrap(
        api.GET("/api/brands/{brand}/log", {
          params: { path: { brand }, query: { ...asked(chosen), cursor: pageParam || undefined } },
        }),
      ),
    getNextPageParam: (page) => page.next,
  });
}

/** Where the whole of it is as a file. */
export function logAddress(brand: string, chosen: LogChosen): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(asked(chosen))) if (value !== undefined) query.set(name, String(value));
  return `/api/brands/${brand}/log/csv?${query}`;
}

export type NoticeChoices = Schemas["Choices"];

export function useNoticeChoices(brand: string) {
  return useQuery({
    queryKey: keyOf("notice choices", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/notifications/choices", { params: { path: { brand } } })),
  });
}

export function useKeepNoticeChoices(brand: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["ChoicesInputRequest"]) =>
      unwrap(api.PUT("/api/brands/{brand}/notifications/choices", { params: { path: { brand } }, body })),
    onSuccess: (kept) => client.setQueryData(keyOf("notice choices", brand), kept),
  });
}

export type Token = Schemas["Token"];
export type Program = Schemas["Program"];

export function useTokens() {
  return useQuery({ queryKey: TOKENS, queryFn: () => unwrap(api.GET("/api/account/tokens")) });
}

export function usePrograms(brand: string, isWanted: boolean) {
  return useQuery({
    queryKey: keyOf("programs", brand),
    enabled: isWanted,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/team/programs", { params: { path: { brand } } })),
  });
}

export const makeToken = (body: Schemas["OwnTokenInputRequest"]) => unwrap(api.POST("/api/account/tokens", { body }));
export const makeProgram = (brand: string, body: Schemas["ProgramInputRequest"]) =>
  unwrap(api.POST("/api/brands/{brand}/team/programs", { params: { path: { brand } }, body }));

export function useRevokeToken() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (pk: number) => unwrap(api.DELETE("/api/account/tokens/{id}", { params: { path: { id: pk } } })),
    onSettled: () => client.invalidateQueries({ queryKey: TOKENS }),
  });
}

export function useRevokeProgram(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (pk: number) => unwrap(api.DELETE("/api/brands/{brand}/team/programs/{id}", one(brand, pk))),
    onSettled: () => changed("team"),
  });
}

// -- one's own account

export function useAccount() {
  return useQuery({ queryKey: ACCOUNT, queryFn: () => unwrap(api.GET("/api/account")) });
}

/** Asks for the account again after something of it changed. */
function useAsked() {
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: ACCOUNT });
}

export function useConfirm() {
  return useMutation({
    mutationFn: async (given: { password: string; code: string } | "passkey") => {
      if (given !== "passkey")
        return unwrap(api.POST("/api/session/confirm", { body: { ...given, credential: null } }));
      const { options } = await unwrap(api.POST("/api/session/passkey/options"));
      const credential = await knownPasskey(options);
      return unwrap(api.POST("/api/session/confirm", { body: { password: "", code: "", credential } }));
    },
  });
}

export function useChangePassword() {
  const asked = useAsked();
  return useMutation({
    mutationFn: (body: { current: string; password: string }) => unwrap(api.PUT("/api/account/password", { body })),
    onSuccess: asked,
  });
}

export const askForAddress = (email: string) => unwrap(api.POST("/api/account/address", { body: { email } }));
export const beginTotp = () => unwrap(api.POST("/api/account/totp"));
export const makeRecoveryCodes = () => unwrap(api.POST("/api/account/recovery-codes"));
export const removeTotp = () => unwrap(api.DELETE("/api/account/totp"));
export const removePasskey = (pk: number) =>
  unwrap(api.DELETE("/api/account/passkeys/{id}", { params: { path: { id: pk } } }));

export async function addPasskey(name: string) {
  const { options } = await unwrap(api.POST("/api/account/passkeys/options"));
  const credential = await newPasskey(options);
  return unwrap(api.POST("/api/account/passkeys", { body: { name, credential } }));
}

export function useConfirmTotp() {
  const asked = useAsked();
  return useMutation({
    mutationFn: (code: string) => unwrap(api.PUT("/api/account/totp", { body: { code } })),
    onSuccess: asked,
  });
}

/** Something of one's account that is done once it is sure who does it. */
export function useDone<A, T>(act: (given: A) => Promise<T>) {
  const asked = useAsked();
  return useMutation({ mutationFn: act, onSuccess: asked });
}

export const eraseAccount = () => unwrap(api.DELETE("/api/account/everything"));

export function useEndSession() {
  const asked = useAsked();
  return useMutation({
    mutationFn: (pk: number | "others") =>
      pk === "others"
        ? unwrap(api.DELETE("/api/account/sessions"))
        : unwrap(api.DELETE("/api/account/sessions/{id}", { params: { path: { id: pk } } })),
    onSettled: asked,
  });
}

// -- how the installation runs

const LOOKS_EVERY_MS = 15_000;

export function useStatus(brand: string) {
  return useQuery({
    queryKey: keyOf("status", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/status", { params: { path: { brand } } })),
    refetchInterval: LOOKS_EVERY_MS,
  });
}

// -- browsers that show one's notices

export type Browsers = Schemas["Browsers"];

export const readBrowsers = () => unwrap(api.GET("/api/account/browsers"));
export const keepBrowser = (body: Schemas["SubscriptionRequest"]) =>
  unwrap(api.POST("/api/account/browsers", { body }));
export const forgetBrowser = (id: number) =>
  unwrap(api.DELETE("/api/account/browsers/{id}", { params: { path: { id } } }));
