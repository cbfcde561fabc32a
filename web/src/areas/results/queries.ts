/** What Results asks the server. */

import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import type { Study } from "../../app/study";

export type Measured = Schemas["Measured"];
export type PostRow = Schemas["PostRow"];
const PAGE = 100;

const asked = (study: Study) => ({ ...study, format: study.format as Schemas["FormatEnum"] | undefined });

export function useSummary(brand: string, study: Study) {
  return useQuery({
    queryKey: ["summary", brand, study],
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/results/summary", { params: { path: { brand }, query: asked(study) } })),
  });
}

/** What people wrote under one of our posts. */
export function useComments(brand: string, id: number, isOn: boolean) {
  return useQuery({
    queryKey: ["comments", brand, id],
    enabled: isOn,
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/sources/posts/{id}/comments", { params: { path: { brand, id } } })),
  });
}

export function useBasis(brand: string, study: Study, metric: string | null) {
  return useQuery({
    queryKey: ["basis", brand, study, metric],
    enabled: metric !== null,
    placeholderData: undefined,
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/results/basis", {
          params: { path: { brand }, query: { ...asked(study), metric: metric ?? "" } },
        }),
      ),
  });
}

export function usePosts(brand: string, study: Study, sort: string, text: string) {
  return useInfiniteQuery({
    queryKey: ["posts", brand, study, sort, text],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      unwrap(
        api.GET("/api/brands/{brand}/results/posts", {
          params: { path: { brand }, query: { ...asked(study), sort, text, offset: pageParam, limit: PAGE } },
        }),
      ),
    getNextPageParam: (last) =>
      last.offset + last.posts.length < last.total ? last.offset + last.posts.length : undefined,
  });
}

export function usePost(brand: string, id: number) {
  return useQuery({
    queryKey: ["post", brand, id],
    placeholderData: undefined,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/results/posts/{id}", { params: { path: { brand, id } } })),
  });
}
