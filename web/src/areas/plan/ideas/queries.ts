/** What ideas ask the server. */

import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../../../api/client";
import { keyOf, useChanged } from "../../../api/keys";
import { every } from "../../../api/live";

export type Idea = Schemas["Idea"];
export type IdeaContent = Schemas["IdeaContentRequest"];
export type Wordings = Schemas["Wordings"];
export type Pattern = Schemas["WordingPattern"];
export type Template = Schemas["Template"];
export type IdeaChoice = {
  group?: number;
  origin?: Idea["origin"];
  standing: "open" | "written" | "shut";
  text: string;
  sort: "new" | "votes";
};

const at = (brand: string, id: number) => ({ params: { path: { brand, id } } });

/** Ideas a page at a time, the newest or the most wanted first. */
export function useIdeas(brand: string, chosen: IdeaChoice) {
  return useInfiniteQuery({
    queryKey: keyOf("ideas", brand, chosen),
    initialPageParam: undefined as string | undefined,
    refetchInterval: every(15_000),
    queryFn: ({ pageParam: cursor }) =>
      unwrap(
        api.GET("/api/brands/{brand}/plan/ideas", {
          params: { path: { brand }, query: { ...chosen, ...(cursor && { cursor }) } },
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  });
}

export function useIdea(brand: string, id: number | undefined) {
  return useQuery({
    queryKey: keyOf("idea", brand, id),
    enabled: id !== undefined,
    refetchInterval: every(10_000),
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/ideas/{id}", at(brand, id ?? 0))),
  });
}

/** What is done with an idea. */
export function useIdeaActs(brand: string, id: number) {
  const client = useQueryClient();
  const changed = useChanged(brand);
  const onSuccess = (idea: Idea) => {
    client.setQueryData(keyOf("idea", brand, id), idea);
    changed("ideas");
  };
  const change = useMutation({
    mutationFn: (body: Schemas["IdeaChangeRequest"]) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/ideas/{id}", { ...at(brand, id), body })),
    onSuccess,
    // Somebody was faster: theirs is shown beside what is written here.
    onError: () => client.invalidateQueries({ queryKey: keyOf("idea", brand, id) }),
  });
  const shut = useMutation({
    mutationFn: (is_shut: boolean) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/ideas/{id}/shut", { ...at(brand, id), body: { is_shut } })),
    onSuccess,
  });
  const write = useMutation({
    mutationFn: (text: string) =>
      unwrap(api.POST("/api/brands/{brand}/plan/ideas/{id}/write", { ...at(brand, id), body: { text } })),
    onSuccess: () => changed("ideas", "plan"),
  });
  const remove = useMutation({
    mutationFn: () => unwrap(api.DELETE("/api/brands/{brand}/plan/ideas/{id}", at(brand, id))),
    onSuccess: () => changed("ideas"),
  });
  const vote = useMutation({
    mutationFn: (value: number) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/{id}/vote", { ...at(brand, id), body: { value } })),
    onSuccess: () => changed("ideas"),
  });
  return { change, shut, write, remove, vote };
}

export function useGroupActs(brand: string) {
  const client = useQueryClient();
  const changed = useChanged(brand);
  const onSuccess = (groups: Schemas["IdeaGroups"]) => client.setQueryData(keyOf("idea groups", brand), groups);
  const add = useMutation({
    mutationFn: (name: string) =>
      unwrap(api.POST("/api/brands/{brand}/plan/ideas/groups", { params: { path: { brand } }, body: { name } })),
    onSuccess,
  });
  const rename = useMutation({
    mutationFn: ({ id, name }: { id: number; name: string }) =>
      unwrap(api.PUT("/api/brands/{brand}/plan/ideas/groups/{id}", { ...at(brand, id), body: { name } })),
    onSuccess,
  });
  const remove = useMutation({
    mutationFn: (id: number) => unwrap(api.DELETE("/api/brands/{brand}/plan/ideas/groups/{id}", at(brand, id))),
    onSuccess: () => changed("ideas"),
  });
  const put = useMutation({
    mutationFn: (body: Schemas["PutIdeasRequest"]) =>
      unwrap(api.POST("/api/brands/{brand}/plan/ideas/put", { params: { path: { brand } }, body })),
    onSuccess: () => changed("ideas"),
  });
  return { add, rename, remove, put };
}

/** First wordings for a subject, from the brand's own posts. */
export function useWordings(brand: string, asked: Schemas["WordingQueryRequest"] | null) {
  return useQuery({
    queryKey: keyOf("wordings", brand, asked),
    enabled: asked !== null,
    staleTime: 600_000,
    queryFn: () =>
      unwrap(
        api.POST("/api/brands/{brand}/plan/ideas/wordings", {
          params: { path: { brand } },
          body: asked ?? { subject: "", page: "", language: "" },
        }),
      ),
  });
}

export function useTemplates(brand: string, isAsked = true) {
  return useQuery({
    queryKey: keyOf("templates", brand),
    enabled: isAsked,
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/plan/templates", { params: { path: { brand } } })),
  });
}

export function useTemplateActs(brand: string) {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: keyOf("templates", brand) });
  const keep = useMutation({
    mutationFn: ({ id, ...body }: Schemas["TemplateInputRequest"] & { id?: number }) =>
      id === undefined
        ? unwrap(api.POST("/api/brands/{brand}/plan/templates", { params: { path: { brand } }, body }))
        : unwrap(api.PUT("/api/brands/{brand}/plan/templates/{id}", { ...at(brand, id), body })),
    onSuccess,
  });
  const remove = useMutation({
    mutationFn: (id: number) => unwrap(api.DELETE("/api/brands/{brand}/plan/templates/{id}", at(brand, id))),
    onSuccess,
  });
  return { keep, remove };
}
