/** What the page of webhooks asks. */

import { useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../../api/client";
import { keyOf, useChanged } from "../../../api/keys";

export type WebHook = Schemas["WebHook"];
export type EventKind = Schemas["EventKind"];
export type Delivery = Schemas["HookDelivery"];
export type HookInput = Schemas["WebHookInputRequest"];

const at = (brand: string, id: number) => ({ params: { path: { brand, id } } });

export function useWebhooks(brand: string) {
  return useQuery({
    queryKey: keyOf("webhooks", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/webhooks", { params: { path: { brand } } })),
  });
}

/** What one was told, page by page, the newest first. */
export function useDeliveries(brand: string, id: number) {
  return useInfiniteQuery({
    queryKey: keyOf("webhook deliveries", brand, id),
    initialPageParam: "",
    queryFn: ({ pageParam }) =>
      unwrap(
        api.GET("/api/brands/{brand}/webhooks/{id}/deliveries", {
          params: { path: { brand, id }, query: { cursor: pageParam || undefined } },
        }),
      ),
    getNextPageParam: (page) => page.next,
  });
}

export const makeWebhook = (brand: string, body: HookInput) =>
  unwrap(api.POST("/api/brands/{brand}/webhooks", { params: { path: { brand } }, body }));
export const changeWebhook = (brand: string, id: number, body: Schemas["WebHookChangeRequest"]) =>
  unwrap(api.PUT("/api/brands/{brand}/webhooks/{id}", { ...at(brand, id), body }));
export const renewSecret = (brand: string, id: number) =>
  unwrap(api.POST("/api/brands/{brand}/webhooks/{id}/secret", at(brand, id)));

/** Something that is done to webhooks; the page asks for them again. */
export function useHookDone<A, T>(brand: string, act: (given: A) => Promise<T>) {
  const changed = useChanged(brand);
  return useMutation({ mutationFn: act, onSettled: () => changed("webhooks") });
}

export function useTry(brand: string) {
  return useHookDone(brand, (id: number) =>
    unwrap(api.POST("/api/brands/{brand}/webhooks/{id}/deliveries", at(brand, id))),
  );
}

export function useSendAgain(brand: string, id: number) {
  return useHookDone(brand, (delivery: number) =>
    unwrap(
      api.POST("/api/brands/{brand}/webhooks/{id}/deliveries/{delivery}", {
        params: { path: { brand, id, delivery } },
      }),
    ),
  );
}

export function useRemoveHook(brand: string) {
  return useHookDone(brand, (id: number) => unwrap(api.DELETE("/api/brands/{brand}/webhooks/{id}", at(brand, id))));
}
