import { type ReactNode, useRef, useState } from "react";
import { Link, useLocation } from "react-router";
import { RatioAxis, RatioPlot } from "../../../charts/RatioPlot";
import { FigureValue } from "../../../figures/FigureValue";
import { SaveAs } from "../../../figures/SaveAs";
import { figure, formatNames, plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { carriedAll, languageName, useAge, useStudy } from "../../../study/study";
import { useAddress } from "../../../study/useAddress";
import { Choice } from "../../../ui/Choice";
import { StateWord } from "../../../ui/Marks";
import { Empty, Failed, Loading } from "../../../ui/States";
import { MetricPicker } from "../MetricPicker";
import { useCatalogue, useGroups } from "../queries";
import { ResultsFrame } from "../ResultsFrame";
import { ratioText, secondLook, VERDICTS } from "../rules";
import { ManageTags } from "../tags/ManageTags";

const GROUPINGS: Record<string, string> = {
  tag: "tag",
  format: "format",
  hashtag: "hashtag",
  campaign: "campaign",
  weekday: "weekday",
  length: "length of the text",
  opening: "opening words",
  link: "address in the text",
  language: "language",
  boosted: "boosted or not",
};
const COLUMNS = { typical: "typical post", ratio: "ratio to the others", held: "ratio, all else the same" };
const TONE = { better: "good", worse: "wrong", open: "quiet", few: "quiet" } as const;
const LINKED = ["tag", "format", "campaign", "language", "boosted"];

/** Do the posts of a group do better than the others, how sure is it, and is it the group or what goes with it? */
export function GroupsPage() {
  const { brand, can } = useBrand();
  const canChange = can("results.tag");
  const { study } = useStudy();
  const age = useAge();
  const { search } = useLocation();
  const { params, set } = useAddress();
  const by = params.get("by") && GROUPINGS[params.get("by") ?? ""] ? (params.get("by") as string) : "format";
  const metric = params.get("metric") ?? "index";
  const catalogue = (useCatalogue(brand.slug).data?.metrics ?? []).filter((m) => m.is_of_posts);
  const groups = useGroups(brand.slug, study, by, metric);
  const [isManaging, setManaging] = useState(false);
  const [isPicking, setPicking] = useState(false);
  const box = useRef<HTMLElement>(null);
  const data = groups.data;
  const name = catalogue.find((m) => m.key === metric)?.name ?? "Index";
  const unit = catalogue.find((m) => m.key === metric)?.unit ?? "index";
  const nameOf = (g: { key: string; name: string }) =>
    by === "format" ? (formatNames[g.name] ?? g.name) : by === "language" && g.key ? languageName(g.name) : g.name;
  const found = data?.groups.filter((g) => g.verdict === "better" || g.verdict === "worse") ?? [];
  const best = found.find((g) => g.verdict === "better");
  const title = !data?.groups.length
    ? ""
    : best
      ? `${nameOf(best)} posts do ${ratioText(best.adjusted ?? best.raw)} times as well as the others`
      : found.length > 0
        ? "No group does better than the others beyond chance"
        : "No group stands out from the others beyond chance";
  const query = (g: { key: string; name: string }) => {
    const next = new URLSearchParams(carriedAll(search));
    if (LINKED.includes(by) && g.key) next.set(by, g.key);
    if (by === "hashtag") next.set("text", g.name);
    if (by === "opening") next.set("text", g.key);
    next.set("sort", metric === "index" ? "-index" : `-${metric}`);
    return `/${brand.slug}/results/posts?${next}`;
  };
  const opening = (g: { key: string; name: string }, column: keyof typeof COLUMNS, shown: ReactNode) => (
    <FigureValue
      kind="results.groups"
      cell={`${g.key}.${column}`}
      params={{ by, metric }}
      label={`${COLUMNS[column]}, ${nameOf(g)}`}
    >
      {shown}
    </FigureValue>
  );
  return (
    <ResultsFrame
      actions={
        <>
          {canChange && (
            <button type="button" className="under hover:text-berry" onClick={() => setManaging(true)}>
              Tags
            </button>
          )}
          <SaveAs
            name={`groups-by-${by}`}
            table={{ kind: "results.groups", params: { by, metric } }}
            chart={{
              box,
              title,
              definition: `${name} of each group as a multiple of the other posts', with 95 % intervals.`,
            }}
          />
        </>
      }
    >
      <section ref={box} className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="groups-title">
        <h1 id="groups-title" className="text-[18px] leading-6">
          {title || "Groups of posts"}
        </h1>
        <p>
          Posts by{" "}
          <Choice
            label="Grouping"
            value={by}
            options={Object.entries(GROUPINGS).map(([value, label]) => ({ value, label }))}
            onChoose={(value) => set("by", value)}
          >
            {GROUPINGS[by]}
          </Choice>
          , judged by{" "}
          <button
            type="button"
            aria-label={`Judged by ${name}; choose another metric`}
            aria-haspopup="dialog"
            className="h-6 font-semibold underline decoration-dashed decoration-rule-strong underline-offset-4 hover:text-berry hover:decoration-berry"
            onClick={() => setPicking(true)}
          >
            {name.toLowerCase()}
          </button>{" "}
          {age.words}, each group against all the other posts.
        </p>
        {groups.error ? (
          <Failed error={groups.error} onRetry={() => groups.refetch()} />
        ) : !data ? (
          <Loading what="Comparing the groups" lines={9} />
        ) : data.groups.length === 0 ? (
          <Empty
            title={by === "tag" ? "No post of these days carries a tag" : "There is nothing to compare"}
            action={
              by === "tag" && canChange ? (
                <button
                  type="button"
                  className="under font-semibold hover:text-berry"
                  onClick={() => setManaging(true)}
                >
                  Make a tag, or a rule that tags by itself
                </button>
              ) : undefined
            }
          >
            {by === "tag"
              ? "Pick posts in the table with x and tag them with t, or let a rule do it."
              : "Choose a longer period, or take a filter out of the sentence."}
          </Empty>
        ) : (
          <>
            <p className="label mt-1">
              Typical: a post in the middle of them
              {!study.profile && ", as on a profile of average level"}. Bar and number: as they are. Hollow mark: with{" "}
              {data.held.join(" and ")} held the same, so that a group is not praised for what goes along with it.
              Whiskers hold 95 %; chance is kept under one in twenty over all the groups shown.
            </p>
            <table className="mt-2 w-full">
              <thead className="label text-left">
                <tr className="rowline h-9 align-top">
                  <th className="w-[190px] font-normal">Group</th>
                  <th className="w-[60px] text-right font-normal">Posts</th>
                  <th className="w-[78px] text-right font-normal">Typical here</th>
                  <th className="w-[78px] text-right font-normal">Of the others</th>
                  <th className="pl-5 font-normal">
                    Times the others
                    <RatioAxis groups={data.groups} />
                  </th>
                  <th className="w-[150px] text-right font-normal">As it is</th>
                  <th className="w-[150px] text-right font-normal">Held the same</th>
                  <th className="w-[150px] pl-5 font-normal">Verdict</th>
                </tr>
              </thead>
              <tbody>
                {data.groups.map((g) => (
                  <tr key={g.key || g.name} className={`rowline h-9 ${g.verdict === "few" ? "text-muted" : ""}`}>
                    <td>
                      {by === "weekday" || by === "length" || !g.key ? (
                        nameOf(g)
                      ) : (
                        <Link
                          to={query(g)}
                          className="under font-semibold hover:text-berry"
                          title="The posts behind it"
                        >
                          {nameOf(g)}
                        </Link>
                      )}
                    </td>
                    <td className="text-right">{g.n}</td>
                    <td className="text-right font-semibold">{opening(g, "typical", figure(g.typical, unit))}</td>
                    <td className="text-right">{figure(g.others, unit)}</td>
                    <td className="pl-5">
                      <RatioPlot name={nameOf(g)} groups={data.groups} group={g} />
                    </td>
                    <td className="text-right">{g.raw ? opening(g, "ratio", ratioText(g.raw)) : ratioText(g.raw)}</td>
                    <td className="text-right">
                      {g.adjusted ? opening(g, "held", ratioText(g.adjusted)) : ratioText(g.adjusted)}
                      {secondLook(g.raw, g.adjusted, data.held.join(" and ")) && (
                        <span className="label block leading-4 narrow:ml-auto narrow:w-[240px]">
                          {secondLook(g.raw, g.adjusted, data.held.join(" and "))}
                        </span>
                      )}
                    </td>
                    <td className="pl-5">
                      <StateWord tone={TONE[g.verdict]}>{VERDICTS[g.verdict]}</StateWord>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <p className="label mt-2">
              {plural(data.posts - data.left_out, "post")} in it
              {data.left_out > 0 &&
                `; ${data.left_out} are too young, were not read at this age, or have nothing to count`}
              . A group of fewer than five posts is shown and not judged.
            </p>
          </>
        )}
      </section>
      <MetricPicker
        isOpen={isPicking}
        onClose={() => setPicking(false)}
        title="By which metric"
        chosen={[metric]}
        most={1}
        onChoose={([key]) => {
          set("metric", key ?? null);
          setPicking(false);
        }}
        isOffered={(m) => m.is_of_posts}
      />
      <ManageTags isOpen={isManaging} onClose={() => setManaging(false)} />
    </ResultsFrame>
  );
}
