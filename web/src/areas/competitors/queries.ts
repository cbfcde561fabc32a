/** What Competitors asks the server. */

import { useMutation, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../api/client";
import { keyOf, useChanged } from "../../api/keys";
import { keptWithin } from "../../lib/keep";
import type { Study } from "../../study/study";

export type Row = Schemas["PeerRow"];
export type Line = Schemas["PeerLine"];
export type Column = Schemas["PeerColumn"];
export type Place = Schemas["PeerPlace"];
export type PeerSet = Schemas["PeerSet"];
export type Benchmark = Schemas["Benchmark"];
export type Axes = Schemas["Axes"];
export type Dot = Schemas["Dot"];
export type BestPost = Schemas["BestPost"];
export type Presence = Schemas["Presence"];
export type Works = Schemas["Works"];
export type Work = Schemas["Work"];
export type Gap = Schemas["Gap"];
export type Metric = NonNullable<Schemas["Axes"]["x"]["key"]>;
/** Of whom: a set's number, and whether a competitor is one row or each of its profiles is. */
export type Whom = { set?: number; by?: "owner" | "profile" };

function asked(study: Study, whom: Whom) {
  const { first, last, compare, network, age, format } = study;
  return { first, last, compare, network, age, format, ...whom };
}

export function useTable(brand: string, study: Study, whom: Whom) {
  const query = asked(study, whom);
  return useQuery({
    queryKey: keyOf("competitors", brand, query),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/competitors", { params: { path: { brand }, query } })),
  });
}

export function useBenchmark(brand: string, study: Study, whom: Whom, metric: string) {
  const query = { ...asked(study, whom), metric: metric as "followers" };
  return useQuery({
    queryKey: keyOf("benchmark", brand, query),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/competitors/benchmark", { params: { path: { brand }, query } })),
  });
}

export function useAxes(brand: string, study: Study, whom: Whom, axes: { x: string; y: string; size: string }) {
  const query = { ...asked(study, whom), ...(axes as { x: "followers"; y: "followers"; size: "followers" }) };
  return useQuery({
    queryKey: keyOf("axes", brand, query),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/competitors/axes", { params: { path: { brand }, query } })),
  });
}

export type BestAsked = { text: string; hashtag: string; sort: string; isNew: boolean; limit: number };

export function useBestPosts(brand: string, study: Study, whom: Whom, wanted: BestAsked) {
  const { text, hashtag, sort, isNew, limit } = wanted;
  const question = { ...asked(study, { set: whom.set }), text, hashtag, new: isNew };
  const query = { ...question, sort: sort as "-index", limit };
  return useQuery({
    queryKey: keyOf("best posts", brand, question, sort, limit),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/competitors/posts", { params: { path: { brand }, query } })),
    placeholderData: keptWithin(...keyOf("best posts", brand, question)),
  });
}

export function useLooked(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (set: number | undefined) =>
      unwrap(api.POST("/api/brands/{brand}/competitors/posts/looked", { params: { path: { brand } }, body: { set } })),
    onSuccess: () => changed("looked"),
  });
}

export function usePresence(brand: string, study: Study, whom: Whom) {
  const query = asked(study, { set: whom.set });
  return useQuery({
    queryKey: keyOf("presence", brand, query),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/competitors/presence", { params: { path: { brand }, query } })),
  });
}

export function useWorks(brand: string, study: Study, whom: Whom, of: string) {
  const query = { ...asked(study, { set: whom.set }), of: of as "format" };
  return useQuery({
    queryKey: keyOf("works", brand, query),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/competitors/works", { params: { path: { brand }, query } })),
  });
}

export function useGap(brand: string, study: Study, whom: Whom, against: string) {
  const query = { ...asked(study, { set: whom.set }), against };
  return useQuery({
    queryKey: keyOf("gap", brand, query),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/competitors/gap", { params: { path: { brand }, query } })),
  });
}

export function usePeerSets(brand: string) {
  return useQuery({
    queryKey: keyOf("peer sets", brand),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/competitors/sets", { params: { path: { brand } } })),
  });
}

export function useKeepSet(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ id, ...body }: { id?: number; name: string; profiles: number[]; edition?: number }) =>
      id === undefined
        ? unwrap(api.POST("/api/brands/{brand}/competitors/sets", { params: { path: { brand } }, body }))
        : unwrap(api.PUT("/api/brands/{brand}/competitors/sets/{id}", { params: { path: { brand, id } }, body })),
    onSuccess: () => changed("sets"),
  });
}

export function useRemoveSet(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (id: number) =>
      unwrap(api.DELETE("/api/brands/{brand}/competitors/sets/{id}", { params: { path: { brand, id } } })),
    onSuccess: () => changed("sets"),
  });
}

export function useDigest(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: ({ set, isOn }: { set?: number; isOn: boolean }) =>
      isOn
        ? unwrap(api.PUT("/api/brands/{brand}/competitors/digest", { params: { path: { brand } }, body: { set } }))
        : unwrap(api.DELETE("/api/brands/{brand}/competitors/digest", { params: { path: { brand }, query: { set } } })),
    onSuccess: () => changed("sets"),
  });
}

export function useDigestPreview(brand: string, set?: number) {
  return useQuery({
    queryKey: keyOf("competitors", brand, "digest", set),
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/competitors/digest", { params: { path: { brand }, query: { set } } })),
  });
}

/** Putting competitors in order: another name, two as one, a profile under another. */
export function useOrder(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (
      act:
        | { what: "rename"; id: number; name: string }
        | { what: "merge"; id: number; into: number }
        | { what: "move"; id: number; competitor?: number; name?: string },
    ) => {
      const params = { path: { brand, id: act.id } };
      if (act.what === "rename")
        return unwrap(api.PATCH("/api/brands/{brand}/sources/competitors/{id}", { params, body: { name: act.name } }));
      if (act.what === "merge")
        return unwrap(
          api.POST("/api/brands/{brand}/sources/competitors/{id}/merge", { params, body: { into: act.into } }),
        );
      const body = { competitor: act.competitor, name: act.name };
      return unwrap(api.POST("/api/brands/{brand}/sources/profiles/{id}/move", { params, body }));
    },
    onSuccess: () => changed("sources", "sets"),
  });
}

export function useSetTarget(brand: string) {
  const changed = useChanged(brand);
  return useMutation({
    mutationFn: (body: { metric: string; value: number; by: string; why: string; profiles: number[] }) =>
      unwrap(api.POST("/api/brands/{brand}/results/targets", { params: { path: { brand } }, body })),
    onSuccess: () => changed("targets"),
  });
}
