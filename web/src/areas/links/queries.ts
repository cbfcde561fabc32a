/** What Links asks the server. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import type { Study } from "../../app/study";

export type TrackedLink = Schemas["Link"];
export type Breakdown = Schemas["Breakdown"];

export function useLinks(brand: string, { first, last }: Study) {
  return useQuery({
    queryKey: ["links", brand, first, last],
    refetchInterval: 10_000,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/links", { params: { path: { brand }, query: { first, last } } })),
  });
}

export function useLink(brand: string, id: number, { first, last }: Study) {
  return useQuery({
    queryKey: ["link", brand, id, first, last],
    refetchInterval: 2_000,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/links/{id}", { params: { path: { brand, id }, query: { first, last } } })),
  });
}

export function useUtm(brand: string, network: string, campaign_id?: number) {
  return useQuery({
    queryKey: ["utm", brand, network, campaign_id],
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/links/utm", { params: { path: { brand }, query: { network, campaign_id } } }),
      ),
  });
}

export function useMakeLink(brand: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["LinkInputRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/links", { params: { path: { brand } }, body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["links", brand] }),
  });
}
