/** What Sources asks the server. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";

export type Profile = Schemas["Profile"];
export type Run = Schemas["Run"];
export type Preview = Schemas["Preview"];

export const isOpen = (run: Run) => run.state === "waiting" || run.state === "running";

export function useSources(brand: string) {
  return useQuery({
    queryKey: ["sources", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sources", { params: { path: { brand } } })),
    // While something runs, every second; else now and then, since collection goes on by itself.
    refetchInterval: (query) => (query.state.data?.runs.some(isOpen) ? 1000 : 15_000),
  });
}

function useChanged(brand: string) {
  const client = useQueryClient();
  return () => {
    for (const key of ["sources", "line", "competitors", "summary", "posts"])
      void client.invalidateQueries({ queryKey: [key, brand] });
  };
}

export function useCollect(brand: string) {
  const changed = useChanged(brand);
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
    mutationFn: (network: string) =>
      unwrap(api.POST("/api/brands/{brand}/sources/connections", { params: { path: { brand } }, body: { network } })),
    onSuccess: ({ address }) => window.location.assign(address),
  });
}

export function useConnection(brand: string, id: number | null) {
  return useQuery({
    queryKey: ["connection", brand, id],
    enabled: id !== null,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/sources/connections/{id}", { params: { path: { brand, id: id ?? 0 } } })),
  });
}

export function useChooseAccounts(brand: string) {
  const changed = useChanged(brand);
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
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["CompetitorInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/sources/competitors", { params: { path: { brand } }, body })),
    onSuccess: changed,
  });
}

export function useStopFollowing(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/sources/profiles/{id}", { params: { path: { brand, id } } })),
    onSuccess: changed,
  });
}

export function useImports(brand: string) {
  return useQuery({
    queryKey: ["imports", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sources/imports", { params: { path: { brand } } })),
  });
}

export function useImport(brand: string, id: number) {
  return useQuery({
    queryKey: ["import", brand, id],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sources/imports/{id}", { params: { path: { brand, id } } })),
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
    onSuccess: (preview) => client.setQueryData(["import", brand, preview.item.id], preview),
  });
}

export function useCorrectMapping(brand: string, id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["MappingInputRequest"]) =>
      unwrap(api.PUT("/api/brands/{brand}/sources/imports/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: (preview) => client.setQueryData(["import", brand, id], preview),
  });
}

export function useConfirmImport(brand: string, id: number) {
  const client = useQueryClient();
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: Schemas["ConfirmInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/sources/imports/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: () => {
      changed();
      void client.invalidateQueries({ queryKey: ["imports", brand] });
      void client.invalidateQueries({ queryKey: ["import", brand, id] });
    },
  });
}

export function useDiscardImport(brand: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/sources/imports/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["imports", brand] }),
  });
}
