/** What Sources asks the server. */

import { useIsMutating, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import { every, moving, paced } from "../../api/live";

export type Profile = Schemas["Profile"];
export type Run = Schemas["Run"];
export type Preview = Schemas["Preview"];
export type Health = Schemas["ProfileHealth"];

export const isOpen = (run: Run) => run.state === "waiting" || run.state === "running";

export function useSources(brand: string) {
  return useQuery({
    queryKey: keyOf("sources", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sources", { params: { path: { brand } } })),
    // While something runs, every second; else now and then, since collection goes on by itself.
    refetchInterval: (query) => (query.state.data?.runs.some(isOpen) ? moving(1000) : paced(15_000)),
  });
}

/** Profiles came or went, or something new is collected. */
function useSourcesChanged(brand: string) {
  const changed = useChanged(brand);
  return () => void changed("sources", "posts");
}

export function useCollect(brand: string) {
  const changed = useSourcesChanged(brand);
  return useMutation({
    mutationFn: (profile_id?: number) =>
      unwrap(
        api.POST("/api/brands/{brand}/sources/collect", {
          params: { path: { brand } },
          body: { profile_id: profile_id ?? null },
        }),
      ),
    onSuccess: changed,
  });
}

export function useConnect(brand: string) {
  return useMutation({
    mutationFn: ({ network, renews }: { network: string; renews?: number }) =>
      unwrap(
        api.POST("/api/brands/{brand}/sources/connections", {
          params: { path: { brand } },
          body: { network, renews: renews ?? null },
        }),
      ),
    onSuccess: ({ address }) => window.location.assign(address),
  });
}

export function useConnection(brand: string, id: number | null) {
  return useQuery({
    queryKey: keyOf("connection", brand, id),
    enabled: id !== null,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/sources/connections/{id}", { params: { path: { brand, id: id ?? 0 } } })),
  });
}

export function useChooseAccounts(brand: string) {
  const changed = useSourcesChanged(brand);
  return useMutation({
    mutationFn: ({ id, external_ids }: { id: number; external_ids: string[] }) =>
      unwrap(
        api.POST("/api/brands/{brand}/sources/connections/{id}", {
          params: { path: { brand, id } },
          body: { external_ids },
        }),
      ),
    onSuccess: changed,
  });
}

export function useAddCompetitor(brand: string) {
  const changed = useSourcesChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["CompetitorInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/sources/competitors", { params: { path: { brand } }, body })),
    onSuccess: changed,
  });
}

export function useSearchProfiles(brand: string, network: string, text: string, isOn: boolean) {
  return useQuery({
    queryKey: keyOf("search", brand, network, text),
    enabled: isOn && text.trim().length > 1,
    retry: false,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/sources/search", { params: { path: { brand }, query: { network, text } } })),
  });
}

export function useDiscoverSite(brand: string) {
  return useMutation({
    mutationFn: (address: string) =>
      unwrap(api.POST("/api/brands/{brand}/sources/site", { params: { path: { brand } }, body: { address } })),
  });
}

export function useFollowFound(brand: string) {
  const changed = useSourcesChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["FollowInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/sources/follow", { params: { path: { brand } }, body })),
    onSuccess: changed,
  });
}

export function useStopFollowing(brand: string) {
  const changed = useSourcesChanged(brand);
  return useMutation({
    mutationFn: ({ id, erase }: { id: number; erase: boolean }) =>
      unwrap(
        api.DELETE("/api/brands/{brand}/sources/profiles/{id}", { params: { path: { brand, id }, query: { erase } } }),
      ),
    onSuccess: changed,
  });
}

export function useProfile(brand: string, id: number) {
  return useQuery({
    queryKey: keyOf("profile", brand, id),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sources/profiles/{id}", { params: { path: { brand, id } } })),
    refetchInterval: (query) => (query.state.data?.runs.some(isOpen) ? moving(1500) : paced(30_000)),
  });
}

export function useHealth(brand: string) {
  return useQuery({
    queryKey: keyOf("health", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sources/health", { params: { path: { brand } } })),
    refetchInterval: every(15_000),
  });
}

export function useFeeds(brand: string, feed?: number) {
  return useQuery({
    queryKey: keyOf("feeds", brand, feed),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/sources/feeds", { params: { path: { brand }, query: { feed } } })),
  });
}

export function useFollowFeed(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (address: string) =>
      unwrap(api.POST("/api/brands/{brand}/sources/feeds", { params: { path: { brand } }, body: { address } })),
    onSuccess: () => changed("feeds"),
  });
}

export function useStopFeed(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/sources/feeds/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("feeds"),
  });
}

const MOVING = new Set(["looking", "running", "undoing"]);
const isMoving = (item: Schemas["Import"]) => MOVING.has(item.state);

export function useImports(brand: string) {
  return useQuery({
    queryKey: keyOf("imports", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sources/imports", { params: { path: { brand } } })),
    refetchInterval: (query) => (query.state.data?.some(isMoving) ? moving(1000) : false),
  });
}

export function useImport(brand: string, id: number) {
  return useQuery({
    queryKey: keyOf("import", brand, id),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sources/imports/{id}", { params: { path: { brand, id } } })),
    refetchInterval: (query) =>
      query.state.data && (isMoving(query.state.data.item) || query.state.data.rebuild) ? moving(700) : false,
  });
}

export function useUpload(brand: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (file: File) => {
      const body = new FormData();
      body.append("file", file);
      return unwrap(
        api.POST("/api/brands/{brand}/sources/imports", {
          params: { path: { brand } },
          body: body as unknown as { file: string },
          bodySerializer: (form) => form as unknown as FormData,
        }),
      );
    },
    onSuccess: (preview) => client.setQueryData(keyOf("import", brand, preview.item.id), preview),
  });
}

/** What is told of one file is sent in the order in which it was told: a late answer must not bring an old state back. */
const oneAfterAnother = (id: number) => ({ id: `import-${id}` });
const settling = (id: number) => ["settle-import", id];

/** Whether something that was told of a file is still on its way: what is shown of it may change. */
export function useIsSettling(id: number): boolean {
  return useIsMutating({ mutationKey: settling(id) }) > 0;
}

export function useSettleFile(brand: string, id: number) {
  const client = useQueryClient();
  return useMutation({
    scope: oneAfterAnother(id),
    mutationKey: settling(id),
    mutationFn: (body: Schemas["SettleInputRequest"]) =>
      unwrap(api.PUT("/api/brands/{brand}/sources/imports/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: (preview) => client.setQueryData(keyOf("import", brand, id), preview),
  });
}

function useFileChanged(brand: string, id: number) {
  const client = useQueryClient();
  const changed = useChanged(brand);
  return async (item: Schemas["Import"]) => {
    void changed("sources", "posts");
    // The answer itself says that the file moves, so the page goes on asking even where the next question fails.
    await client.cancelQueries({ queryKey: keyOf("import", brand, id) });
    client.setQueryData<Preview>(keyOf("import", brand, id), (known) => known && { ...known, item });
    void changed("files");
  };
}

export function useConfirmFile(brand: string, id: number) {
  const changed = useFileChanged(brand, id);
  return useMutation({
    scope: oneAfterAnother(id),
    mutationFn: (body: Schemas["ConfirmInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/sources/imports/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: changed,
  });
}

export function useUndoFile(brand: string, id: number) {
  const changed = useFileChanged(brand, id);
  return useMutation({
    mutationFn: () =>
      unwrap(api.POST("/api/brands/{brand}/sources/imports/{id}/undo", { params: { path: { brand, id } } })),
    onSuccess: changed,
  });
}

export function useDiscardFile(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/sources/imports/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("files"),
  });
}

export function useSavePicture(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (profile_id: number | null) =>
      unwrap(api.PUT("/api/brands/{brand}/sources/picture", { params: { path: { brand } }, body: { profile_id } })),
    onSuccess: () => changed("brand"),
  });
}
