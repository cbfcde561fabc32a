/** What every figure asks the server, whichever kind it is of. */

import { useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { keyOf, useChanged } from "../api/keys";
import type { Study } from "../study/study";

export type Basis = Schemas["FigureBasis"];
/** A figure: its kind, its key among those of the kind, and what its kind was asked besides the study. */
export type Of = { kind: string; cell: string; params?: Record<string, string | number | undefined> };

export function useBasis(brand: string, study: Study, of: Of | null) {
  return useQuery({
    queryKey: keyOf("basis", brand, study, of),
    enabled: of !== null,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/figures/{kind}/basis", {
          // What a kind asks for besides the study goes by its own names, which the description cannot list.
          params: {
            path: { brand, kind: of?.kind ?? "" },
            query: { ...study, ...(of?.params as object), cell: of?.cell ?? "" },
          },
        }),
      ),
  });
}

/** Where a kind's table is, as a file. */
export function tableAddress(
  brand: string,
  study: Study,
  kind: string,
  params: Of["params"],
  form: "csv" | "xlsx",
): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries({ ...study, ...params, form }))
    if (value !== undefined && value !== "") query.set(name, String(value));
  return `/api/brands/${brand}/figures/${kind}/table?${query}`;
}

/** Reports that a figure could go into, the latest changed first. */
export function useReportsForFigures(brand: string) {
  return useQuery({
    queryKey: keyOf("reports", brand, "for figures"),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/reports", { params: { path: { brand }, query: { limit: 100 } } })),
  });
}

export function usePutInto(brand: string) {
  const changed = useChanged(brand);
  const onSuccess = () => changed("reports");
  const put = useMutation({
    mutationFn: ({ id, body }: { id: number; body: Schemas["PutIntoReportRequest"] }) =>
      unwrap(api.POST("/api/brands/{brand}/reports/{id}/items", { params: { path: { brand, id } }, body })),
    onSuccess,
  });
  const make = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/brands/{brand}/reports", {
          params: { path: { brand } },
          body: { template: "blank", title: "", language: "en" },
        }),
      ),
    onSuccess,
  });
  return { put, make };
}
