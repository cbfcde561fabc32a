/** What reports ask the server. */

import { keepPreviousData, useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import { every } from "../../api/live";
import { usePrinting } from "../../figures/printing";

export type ReportRow = Schemas["ReportRow"];
export type Report = Schemas["Report"];
export type Shown = Schemas["ShownReport"];
export type ShownPage = Schemas["ShownPage"];
export type ShownItem = Schemas["ShownItem"];
export type ReadSegment = Schemas["ReadSegment"];
export type ReportLink = Schemas["ReportLink"];
export type Opened = Schemas["OpenedReport"];

const of = (brand: string, id: number) => ({ params: { path: { brand, id } } });

export function useReports(brand: string, text: string, label: string) {
  return useInfiniteQuery({
    queryKey: keyOf("reports", brand, text, label),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam: cursor }) =>
      unwrap(
        api.GET("/api/brands/{brand}/reports", {
          params: { path: { brand }, query: { text: text || undefined, label: label || undefined, cursor } },
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: keepPreviousData,
  });
}

export function useBeginnings(brand: string) {
  return useQuery({
    queryKey: keyOf("report beginnings", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/reports/beginnings", { params: { path: { brand } } })),
  });
}

export function useReport(brand: string, id: number) {
  return useQuery({
    queryKey: keyOf("report", brand, id),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/reports/{id}", of(brand, id))),
  });
}

/** Pages as they are seen; what was shown stays until the new is there. */
export function useShown(brand: string, id: number, edition: number | undefined, pages?: string) {
  return useQuery({
    queryKey: keyOf("report shown", brand, id, edition, pages),
    enabled: edition !== undefined && pages !== "",
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/reports/{id}/shown", { params: { path: { brand, id }, query: { pages } } })),
    placeholderData: keepPreviousData,
  });
}

export function useVersions(brand: string, id: number) {
  return useQuery({
    queryKey: keyOf("report versions", brand, id),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/reports/{id}/versions", of(brand, id))),
  });
}

export function useReportActs(brand: string) {
  const changed = useChanged(brand);
  const onSuccess = () => changed("reports");
  const make = useMutation({
    mutationFn: (body: Schemas["MakeReportRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/reports", { params: { path: { brand } }, body })),
    onSuccess,
  });
  const copy = useMutation({
    mutationFn: ({ id, ...body }: Schemas["CopyReportRequest"] & { id: number }) =>
      unwrap(api.POST("/api/brands/{brand}/reports/{id}/copy", { ...of(brand, id), body })),
    onSuccess,
  });
  const away = useMutation({
    mutationFn: ({ id, is_away }: { id: number; is_away: boolean }) =>
      unwrap(api.PUT("/api/brands/{brand}/reports/{id}/away", { ...of(brand, id), body: { is_away } })),
    onSuccess,
  });
  const save = useMutation({
    mutationFn: ({ id, body }: { id: number; body: Schemas["ReportContentRequest"] }) =>
      unwrap(api.PUT("/api/brands/{brand}/reports/{id}", { ...of(brand, id), body })),
  });
  const goBack = useMutation({
    mutationFn: ({ id, edition }: { id: number; edition: number }) =>
      unwrap(api.PUT("/api/brands/{brand}/reports/{id}/versions", { ...of(brand, id), body: { edition } })),
    onSuccess,
  });
  const name = useMutation({
    mutationFn: ({ id, name }: { id: number; name: string }) =>
      unwrap(api.POST("/api/brands/{brand}/reports/{id}/versions", { ...of(brand, id), body: { name } })),
    onSuccess,
  });
  return { make, copy, away, save, goBack, name };
}

export function useReportLinks(brand: string, id: number) {
  return useQuery({
    queryKey: keyOf("report links", brand, id),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/reports/{id}/links", of(brand, id))),
  });
}

export function useLinkActs(brand: string, id: number) {
  const changed = useChanged(brand);
  const onSuccess = () => changed("reports");
  const share = useMutation({
    mutationFn: (body: Schemas["ReportLinkInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/reports/{id}/links", { ...of(brand, id), body })),
    onSuccess,
  });
  const revoke = useMutation({
    mutationFn: (link: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/reports/{id}/links/{link}", { params: { path: { brand, id, link } } })),
    onSuccess,
  });
  return { share, revoke };
}

export type Delivery = Schemas["Delivery"];

export function useDeliveries(brand: string, id: number) {
  return useQuery({
    queryKey: keyOf("deliveries", brand, id),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/reports/{id}/deliveries", of(brand, id))),
  });
}

export function useRuns(brand: string, id: number) {
  return useQuery({
    queryKey: keyOf("delivery runs", brand, id),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/reports/{id}/runs", of(brand, id))),
    refetchInterval: every(20_000),
  });
}

export function useRun(brand: string, id: number, run: number | null) {
  return useQuery({
    queryKey: keyOf("delivery run", brand, id, run),
    enabled: run !== null,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/reports/{id}/runs/{run}", { params: { path: { brand, id, run: run as number } } }),
      ),
  });
}

export function useDeliveryActs(brand: string, id: number) {
  const changed = useChanged(brand);
  const onSuccess = () => changed("reports");
  const at = (delivery: number) => ({ params: { path: { brand, id, delivery } } });
  const keep = useMutation({
    mutationFn: ({ id: delivery, body }: { id?: number; body: Schemas["DeliveryInputRequest"] }) =>
      unwrap(
        delivery === undefined
          ? api.POST("/api/brands/{brand}/reports/{id}/deliveries", { ...of(brand, id), body })
          : api.PUT("/api/brands/{brand}/reports/{id}/deliveries/{delivery}", { ...at(delivery), body }),
      ),
    onSuccess,
  });
  const takeAway = useMutation({
    mutationFn: (delivery: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/reports/{id}/deliveries/{delivery}", at(delivery))),
    onSuccess,
  });
  const send = useMutation({
    mutationFn: ({ id: delivery, to_myself }: { id: number; to_myself: boolean }) =>
      unwrap(
        api.POST("/api/brands/{brand}/reports/{id}/deliveries/{delivery}/send", {
          ...at(delivery),
          body: { to_myself },
        }),
      ),
    onSuccess,
  });
  return { keep, takeAway, send };
}

export function useReportPdf(brand: string, id: number) {
  return usePrinting(brand, () => unwrap(api.POST("/api/brands/{brand}/reports/{id}/pdf", of(brand, id))));
}

export function openReport(key: string, password: string) {
  return unwrap(api.POST("/api/report", { body: { key, password } }));
}
