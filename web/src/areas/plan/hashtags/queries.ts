/** What hashtags ask the server. */

import { useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../../api/client";
import { keyOf, useChanged } from "../../../api/keys";
import { every } from "../../../api/live";
import { keptWithin } from "../../../lib/keep";

export type Hashtag = Schemas["Hashtag"];
export type HashtagSet = Schemas["HashtagSet"];
export type Course = Schemas["HashtagCourse"];
type SetInput = Schemas["HashtagSetInputRequest"];

const of = (brand: string) => ({ params: { path: { brand } } });

export function useHashtagSets(brand: string) {
  return useQuery({
    queryKey: keyOf("hashtag sets", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/hashtags", of(brand))),
  });
}

export function useKeepHashtags(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, ...body }: SetInput & { id?: number }) =>
      id === undefined
        ? unwrap(api.POST("/api/brands/{brand}/plan/hashtags", { ...of(brand), body }))
        : unwrap(api.PUT("/api/brands/{brand}/plan/hashtags/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: () => changed("hashtags"),
  });
}

export function useRemoveHashtags(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/plan/hashtags/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("hashtags"),
  });
}

/** Hashtags for what is written, by why; while networks are being asked, again and again. */
export function useHashtagProposals(brand: string, asked: { text: string; profiles: number[]; chosen: string[] }) {
  return useQuery({
    queryKey: keyOf("hashtag proposals", brand, asked),
    placeholderData: keptWithin("hashtag proposals", brand),
    staleTime: 60_000,
    refetchInterval: (query) => (query.state.data?.is_asked ? 2_500 : false),
    queryFn: () => unwrap(api.POST("/api/brands/{brand}/plan/hashtags/proposals", { ...of(brand), body: asked })),
  });
}

export function useFollowedHashtags(brand: string) {
  return useQuery({
    queryKey: keyOf("followed hashtags", brand),
    refetchInterval: (query) => (query.state.data?.is_asked ? 2_500 : every(60_000)()),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/hashtags/followed", of(brand))),
  });
}

export function useHashtagCourse(brand: string, tag: string | null) {
  return useQuery({
    queryKey: keyOf("hashtag course", brand, tag),
    enabled: tag !== null,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/plan/hashtags/course", { params: { path: { brand }, query: { tag: tag ?? "" } } }),
      ),
  });
}

export function useFollowing(brand: string) {
  const changed = useChanged(brand);
  const follow = useMutation({
    mutationFn: (tag: string) =>
      unwrap(api.POST("/api/brands/{brand}/plan/hashtags/followed", { ...of(brand), body: { tag } })),
    onSuccess: () => changed("hashtags"),
  });
  const leave = useMutation({
    mutationFn: (tag: string) =>
      unwrap(api.DELETE("/api/brands/{brand}/plan/hashtags/followed", { params: { path: { brand }, query: { tag } } })),
    onSuccess: () => changed("hashtags"),
  });
  return { follow, leave };
}
