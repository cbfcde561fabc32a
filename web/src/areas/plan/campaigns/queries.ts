/** What campaigns ask the server. */

import { useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../../api/client";
import { keyOf, useChanged } from "../../../api/keys";

export type Campaign = Schemas["Campaign"];
export type CampaignInput = Schemas["CampaignInputRequest"];
export type Counts = Schemas["CampaignCounts"];

export function useCampaignPlan(brand: string, id: number) {
  return useQuery({
    queryKey: keyOf("campaign plan", brand, id),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/campaigns/{id}", { params: { path: { brand, id } } })),
  });
}

export function useKeepCampaign(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, body }: { id?: number; body: CampaignInput }) =>
      id === undefined
        ? unwrap(api.POST("/api/brands/{brand}/campaigns", { params: { path: { brand } }, body }))
        : unwrap(api.PUT("/api/brands/{brand}/campaigns/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: () => changed("campaigns"),
  });
}

export function useRemoveCampaign(brand: string, id: number) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (takes_back: boolean) =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/campaigns/{id}/removal", {
          params: { path: { brand, id } },
          body: { takes_back },
        }),
      ),
    onSuccess: () => changed("campaigns", "plan", "posts"),
  });
}
