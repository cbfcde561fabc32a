import { useDeferredValue, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { useIdeaGroups } from "../../../study/queries";
import { Button } from "../../../ui/Button";
import { inputLook } from "../../../ui/Field";
import { Empty, Failed, Loading } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { CollectSheet } from "./CollectSheet";
import { Groups } from "./Groups";
import { IdeaDetail } from "./IdeaDetail";
import { IdeaList } from "./IdeaList";
import { type IdeaChoice, useGroupActs, useIdeas } from "./queries";
import { ORIGINS } from "./rules";
import { TemplatesSheet } from "./TemplatesSheet";

const STANDINGS = { open: "open", written: "written", shut: "put away" } as const;
const numberIn = (told: string | null) => (told !== null && /^\d+$/.test(told) ? Number(told) : undefined);

/** What could be written: by group, the newest or the most wanted first, and one of them whole beside the list. */
export function IdeasPage() {
  const { brand, can } = useBrand();
  const canChange = can("plan.write");
  const say = useToast();
  const [params, setParams] = useSearchParams();
  const [opened, setOpened] = useState<"collect" | "templates" | null>(null);
  const [picked, setPicked] = useState<Set<number>>(new Set());
  const standing = (Object.keys(STANDINGS) as (keyof typeof STANDINGS)[]).find((one) => one === params.get("standing"));
  const origin = (Object.keys(ORIGINS) as (keyof typeof ORIGINS)[]).find((one) => one === params.get("origin"));
  const text = useDeferredValue(params.get("text") ?? "");
  const chosen: IdeaChoice = {
    group: numberIn(params.get("group")),
    origin,
    standing: standing ?? "open",
    text,
    sort: params.get("sort") === "votes" ? "votes" : "new",
  };
  const ideas = useIdeas(brand.slug, chosen);
  const groups = useIdeaGroups(brand.slug).data;
  const acts = useGroupActs(brand.slug);
  const rows = ideas.data?.pages.flatMap((page) => page.ideas) ?? [];
  const open = numberIn(params.get("idea")) ?? undefined;
  const put = (patch: Record<string, string | null>) =>
    setParams(
      (old) => {
        const next = new URLSearchParams(old);
        for (const [name, value] of Object.entries(patch)) {
          if (value === null) next.delete(name);
          else next.set(name, value);
        }
        return next;
      },
      { replace: "text" in patch },
    );
  const move = (which: number[], group: number | null) =>
    acts.put.mutate(
      { ideas: which, group },
      {
        onSuccess: ({ ideas: n }) => {
          const name = groups?.groups.find((one) => one.id === group)?.name;
          say(`${plural(n, "idea")} put into ${name ? `“${name}”` : "no group"}.`);
          setPicked(new Set());
        },
        onError: (error) => say(error.message, "wrong"),
      },
    );
  const isFiltered = text !== "" || origin !== undefined || chosen.group !== undefined || chosen.standing !== "open";
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] flex-wrap items-center gap-x-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
        <h1 className="text-[16px]">Ideas</h1>
        {(Object.keys(STANDINGS) as (keyof typeof STANDINGS)[]).map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={chosen.standing === one}
            onClick={() => put({ standing: one === "open" ? null : one })}
            className="h-7 px-1 aria-pressed:border-b-2 aria-pressed:border-berry"
          >
            {STANDINGS[one]} {groups?.[one] ?? ""}
          </button>
        ))}
        <input
          type="search"
          aria-label="Words of ideas"
          placeholder="Words"
          className={`${inputLook} !h-7 !w-[130px]`}
          value={params.get("text") ?? ""}
          onChange={(event) => put({ text: event.target.value || null })}
        />
        <select
          aria-label="Where from"
          className={`${inputLook} !h-7 !w-auto`}
          value={origin ?? ""}
          onChange={(event) => put({ origin: event.target.value || null })}
        >
          <option value="">from anywhere</option>
          {Object.entries(ORIGINS).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="under h-6 hover:text-berry"
          onClick={() => put({ sort: chosen.sort === "votes" ? null : "votes" })}
        >
          {chosen.sort === "votes" ? "most wanted first" : "newest first"}
        </button>
        <span className="ml-auto flex flex-wrap items-center gap-x-3">
          <Link to={`/${brand.slug}/sources/feeds`} className="under hover:text-berry">
            From feeds
          </Link>
          <button type="button" className="under h-6 hover:text-berry" onClick={() => setOpened("collect")}>
            From a page
          </button>
          <button type="button" className="under h-6 hover:text-berry" onClick={() => setOpened("templates")}>
            Templates
          </button>
          {canChange && (
            <Link
              to={`/${brand.slug}/plan/ideas/new${chosen.group ? `?group=${chosen.group}` : ""}`}
              className="inline-flex h-7 items-center rounded-[2px] bg-berry px-3 font-semibold text-on-berry hover:opacity-90"
            >
              A new idea
            </Link>
          )}
        </span>
      </div>
      <div
        className={`grid min-h-0 flex-1 ${open ? "grid-cols-[190px_minmax(0,1fr)_minmax(360px,430px)]" : "grid-cols-[190px_minmax(0,1fr)]"}`}
      >
        <div className="overflow-y-auto border-r border-rule py-2 pr-2 pl-3">
          <Groups
            chosen={chosen.group}
            onChosen={(group) => put({ group: group === undefined ? null : String(group) })}
            onDrop={move}
          />
        </div>
        <section className="min-w-0 overflow-y-auto px-4 py-2" aria-label="List of ideas">
          {picked.size > 0 && (
            <div className="mb-1 flex flex-wrap items-center gap-2 bg-wash px-2 py-1">
              <span className="font-semibold">{plural(picked.size, "idea")} chosen</span>
              <select
                aria-label="Put them into"
                className={`${inputLook} !h-7 !w-auto`}
                value=""
                onChange={(event) =>
                  event.target.value &&
                  move([...picked], event.target.value === "none" ? null : Number(event.target.value))
                }
              >
                <option value="">Put into …</option>
                {groups?.groups.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
                <option value="none">no group</option>
              </select>
              <button type="button" className="under h-6" onClick={() => setPicked(new Set())}>
                choose none
              </button>
            </div>
          )}
          {ideas.error ? (
            <Failed error={ideas.error} onRetry={() => ideas.refetch()} />
          ) : !ideas.data ? (
            <Loading what="Loading the ideas" />
          ) : rows.length === 0 ? (
            <Empty title={isFiltered ? "None of these" : "No idea is kept yet"}>
              {isFiltered
                ? "Choose another group, other words, or another place they come from."
                : "Write one down, keep a post that did well, a finding, a missed hour, an item of a feed, or a page you are reading."}
            </Empty>
          ) : (
            <>
              <IdeaList
                ideas={rows}
                open={open}
                onOpen={(id) => put({ idea: open === id ? null : String(id) })}
                chosen={picked}
                onChosen={setPicked}
              />
              {ideas.hasNextPage && (
                <Button className="my-3" isBusy={ideas.isFetchingNextPage} onClick={() => ideas.fetchNextPage()}>
                  Show more
                </Button>
              )}
            </>
          )}
        </section>
        {open && (
          <aside
            className="min-w-0 overflow-y-auto border-l border-rule px-4 pb-4 narrow:order-first narrow:border-b"
            aria-label="The idea"
          >
            <IdeaDetail id={open} onGone={() => put({ idea: null })} />
          </aside>
        )}
      </div>
      <CollectSheet isOpen={opened === "collect"} onClose={() => setOpened(null)} />
      <TemplatesSheet isOpen={opened === "templates"} onClose={() => setOpened(null)} />
    </>
  );
}
