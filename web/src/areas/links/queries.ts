/** What Links asks the server. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import { every } from "../../api/live";
import { keptWithin } from "../../lib/keep";
import type { Study } from "../../study/study";

export type TrackedLink = Schemas["Link"];
export type OneLink = Schemas["OneLink"];
export type Figures = Schemas["ClickFigures"];
export type Share = Schemas["Share"];
export type Life = Schemas["Life"];
export type Draft = Schemas["DraftRequest"];
export type Rules = Schemas["Rules"];
export type LinkSettings = Schemas["ShownSettings"];
export type LinkPageData = Schemas["Page"];

type Asked = Pick<Study, "first" | "last" | "compare"> & { network?: string; campaign?: string; text?: string };

export function useLinks(brand: string, asked: Asked) {
  return useQuery({
    queryKey: keyOf("links", brand, asked),
    refetchInterval: every(10_000),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/links", { params: { path: { brand }, query: { ...asked, age: 72 } } })),
  });
}

export function useLink(brand: string, id: number, { first, last, compare }: Study) {
  return useQuery({
    queryKey: keyOf("link", brand, id, first, last, compare),
    refetchInterval: every(2_000),
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
