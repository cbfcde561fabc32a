/** What a table of posts asks the server. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../../api/client";
import { keyOf, useChanged } from "../../../api/keys";

export type Batch = Schemas["BatchDetail"];
export type Choices = Schemas["BatchChoices"];
export type Row = Batch["rows"][number];

const at = (brand: string, id: number) => ({ params: { path: { brand, id } } });

/** A file as the body of a call (RFC 7578). */
function fileIn(file: File) {
  const form = new FormData();
  form.append("file", file);
  return {
    body: form as unknown as { file: string },
    bodySerializer: (body: unknown) => body as FormData,
  };
}

export function useBatches(brand: string) {
  return useQuery({
    queryKey: keyOf("batches", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/batches", { params: { path: { brand } } })),
  });
}

export function useBatch(brand: string, id: number | undefined) {
  return useQuery({
    queryKey: keyOf("batch", brand, id),
    enabled: id !== undefined,
    refetchInterval: (query) => (query.state.data?.state === "making" ? 1_500 : false),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/batches/{id}", at(brand, id ?? 0))),
  });
}

export function useBringTable(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (file: File) =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/batches", {
          params: { path: { brand } },
          ...fileIn(file),
        }),
      ),
    onSuccess: () => changed("batches"),
  });
}

/** Pictures for a table, in a ZIP archive. */
export function useBringPictures(brand: string, id: number) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (file: File) =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/batches/{id}/pictures", {
          ...at(brand, id),
          ...fileIn(file),
        }),
      ),
    onSettled: () => changed("batches", "media"),
  });
}

/** What is done with a table; each is answered with it as it is then. */
export function useBatchActs(brand: string, id: number) {
  const client = useQueryClient();
  const changed = useChanged(brand);
  const onSuccess = (batch: Batch) => client.setQueryData(keyOf("batch", brand, id), batch);
  const set = useMutation({
    mutationFn: (body: { columns: Record<string, number>; choices: Choices }) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/batches/{id}", { ...at(brand, id), body })),
    onSuccess,
  });
  const mend = useMutation({
    mutationFn: ({ number, values }: { number: number; values: Record<string, string> }) =>
      unwrap(
        api.PUT("/api/brands/{brand}/plan/batches/{id}/rows/{number}", {
          params: { path: { brand, id, number } },
          body: { values },
        }),
      ),
    onSuccess,
  });
  const make = useMutation({
    mutationFn: (only_good: boolean) =>
      unwrap(api.POST("/api/brands/{brand}/plan/batches/{id}/posts", { ...at(brand, id), body: { only_good } })),
    onSuccess: (batch) => {
      onSuccess(batch);
      changed("batches", "plan");
    },
  });
  const takeBack = useMutation({
    mutationFn: () => unwrap(api.DELETE("/api/brands/{brand}/plan/batches/{id}/posts", at(brand, id))),
    onSuccess: () => changed("batches", "plan"),
  });
  const throwAway = useMutation({
    mutationFn: () => unwrap(api.DELETE("/api/brands/{brand}/plan/batches/{id}", at(brand, id))),
    onSuccess: () => changed("batches"),
  });
  return { set, mend, make, takeBack, throwAway };
}
