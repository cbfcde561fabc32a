/** What files of people are asked of the server. */

import { useInfiniteQuery, useMutation, useQueries, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import { moving } from "../../api/live";
import { keptWithin } from "../../lib/keep";

export type Asset = Schemas["Asset"];
export type Edits = Schemas["EditsRequest"];
export type Kind = Schemas["AssetKindEnum"];

/** Where a file's bytes are. */
export function contentOf(brand: string, id: number, purpose: "preview" | "full" | "original"): string {
  return `/api/brands/${brand}/media/${id}/${purpose}`;
}

export function useAssets(brand: string, chosen: { kind?: Kind; text?: string; tag?: string }) {
  return useInfiniteQuery({
    queryKey: keyOf("assets", brand, chosen),
    placeholderData: keptWithin("assets", brand),
    initialPageParam: "",
    queryFn: ({ pageParam }): Promise<Schemas["Assets"]> =>
      unwrap(
        api.GET("/api/brands/{brand}/media", {
          params: { path: { brand }, query: { ...chosen, ...(pageParam && { cursor: pageParam }) } },
        }),
      ),
    getNextPageParam: (last) => last.next ?? undefined,
    refetchInterval: ({ state }) =>
      state.data?.pages.some((page) => page.assets.some((one) => one.state === "checking")) ? moving(700) : false,
  });
}

const oneOf = (brand: string, id: number) => ({
  queryKey: keyOf("asset", brand, id),
  queryFn: () => unwrap(api.GET("/api/brands/{brand}/media/{id}", { params: { path: { brand, id } } })),
  // While a worker looks into it, its end is waited for.
  refetchInterval: ({ state }: { state: { data?: Asset } }) => (state.data?.state === "checking" ? moving(700) : false),
});

/** Single files, in the order that they are asked for; those that are not known yet are undefined. */
export function useAssetsOf(brand: string, ids: number[]): (Asset | undefined)[] {
  return useQueries({ queries: ids.map((id) => oneOf(brand, id)) }).map((found) => found.data);
}

export function useAsset(brand: string, id: number) {
  return useQuery(oneOf(brand, id));
}

export function useTags(brand: string) {
  return useQuery({
    queryKey: keyOf("asset tags", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/media/tags", { params: { path: { brand } } })),
  });
}

export function useUses(brand: string, id: number) {
  return useQuery({
    queryKey: keyOf("asset uses", brand, id),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/media/{id}/uses", { params: { path: { brand, id } } })),
  });
}

export function useBring(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (file: File) => {
      const body = new FormData();
      body.append("file", file, file.name || "pasted.png");
      return unwrap(
        api.POST("/api/brands/{brand}/media", {
          params: { path: { brand } },
          body: body as never,
          bodySerializer: (b) => b,
        }),
      );
    },
    onSuccess: () => changed("media"),
  });
}

export function useBringFrom(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (address: string) =>
      unwrap(api.POST("/api/brands/{brand}/media/from-address", { params: { path: { brand } }, body: { address } })),
    onSuccess: () => changed("media"),
  });
}

export function useChangeAsset(brand: string, id: number) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["PatchedAssetChangeRequest"]) =>
      unwrap(api.PATCH("/api/brands/{brand}/media/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: () => changed("media"),
  });
}

export function useEditAsset(brand: string, id: number) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Edits) =>
      unwrap(api.POST("/api/brands/{brand}/media/{id}/edits", { params: { path: { brand, id } }, body })),
    onSuccess: () => changed("media"),
  });
}

export function useStill(brand: string, id: number) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (seconds: number) =>
      unwrap(api.POST("/api/brands/{brand}/media/{id}/still", { params: { path: { brand, id } }, body: { seconds } })),
    onSuccess: () => changed("media"),
  });
}

export function useSequence(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: { pictures: number[]; seconds: number; shape: number }) =>
      unwrap(api.POST("/api/brands/{brand}/media/sequences", { params: { path: { brand } }, body })),
    onSuccess: () => changed("media"),
  });
}

export function useCollection(brand: string, text: string) {
  return useQuery({
    queryKey: keyOf("collection", brand, text),
    enabled: text.trim().length > 1,
    staleTime: 600_000,
    retry: false,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/media/collection", { params: { path: { brand }, query: { text } } })),
  });
}

export function useBringFromCollection(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (key: string) =>
      unwrap(api.POST("/api/brands/{brand}/media/collection", { params: { path: { brand } }, body: { key } })),
    onSuccess: () => changed("media"),
  });
}

export function useReplaceAsset(brand: string, id: number) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (by: number) =>
      unwrap(api.POST("/api/brands/{brand}/media/{id}/replace", { params: { path: { brand, id } }, body: { by } })),
    onSuccess: () => changed("media", "plan"),
  });
}

export function useRemoveAsset(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/media/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("media"),
  });
}

/** Several files as they were brought, in one zip. */
export function useZip(brand: string) {
  return useMutation({
    mutationFn: (assets: number[]) =>
      unwrap(
        api.POST("/api/brands/{brand}/media/zip", { params: { path: { brand } }, body: { assets }, parseAs: "blob" }),
      ) as Promise<unknown> as Promise<Blob>,
  });
}
