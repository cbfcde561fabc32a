/** What files of people are asked of the server. */

import { useInfiniteQuery, useMutation, useQueries, useQuery } from "@tanstack/react-query";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
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

/** From this size on a file goes in parts, so that a connection that breaks off costs one of them. */
const IN_PARTS = 16_000_000;
const TRIES = 6;

export function useBring(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ file, onProgress }: { file: File; onProgress?: (share: number) => void }) => {
      if (file.size > IN_PARTS) return inParts(brand, file, onProgress);
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

const waiting = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** A large file part by part; what broke off is tried again, and goes on where the server has got to. */
async function inParts(brand: string, file: File, onProgress?: (share: number) => void): Promise<Asset> {
  const path = { brand };
  let told = await unwrap(
    api.POST("/api/brands/{brand}/media/uploads", { params: { path }, body: { name: file.name, size: file.size } }),
  );
  const id = told.id;
  for (let failed = 0; ; ) {
    if (told.asset) return told.asset;
    onProgress?.(told.received / file.size);
    try {
      if (told.received >= file.size) {
        told = await unwrap(api.GET("/api/brands/{brand}/media/uploads/{id}", { params: { path: { brand, id } } }));
      } else {
        const part = file.slice(told.received, told.received + told.part);
        told = await unwrap(
          api.PUT("/api/brands/{brand}/media/uploads/{id}", {
            params: { path: { brand, id }, query: { start: told.received } },
            body: part as never,
            bodySerializer: (bytes) => bytes as never,
            headers: { "Content-Type": "application/octet-stream" },
          }),
        );
      }
      failed = 0;
    } catch (error) {
      failed += 1;
      const status = error instanceof ProblemError ? error.status : 0;
      // What was refused for good is said; what broke off, or was the wrong place, goes on.
      if (failed >= TRIES || (status >= 400 && status < 500 && status !== 409)) throw error;
      await waiting(failed * failed * 500);
      told = await unwrap(api.GET("/api/brands/{brand}/media/uploads/{id}", { params: { path: { brand, id } } })).catch(
        () => told,
      );
    }
  }
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
