import { useRef } from "react";
import { Link, useLocation } from "react-router";
import { RatioAxis, RatioPlot } from "../../charts/RatioPlot";
import { FigureValue } from "../../figures/FigureValue";
import { SaveAs } from "../../figures/SaveAs";
import { figure, formatNames, plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { ageName, carriedAll, useStudy } from "../../study/study";
import { useAddress } from "../../study/useAddress";
import { Choice } from "../../ui/Choice";
import { StateWord } from "../../ui/Marks";
import { Empty, Failed, Loading } from "../../ui/States";
import { CompetitorsFrame, useWhom } from "./CompetitorsFrame";
import { useWorks, type Work, type Works } from "./queries";
import { usageWords } from "./rules";

const GROUPINGS: Record<string, string> = {
  format: "format",
  topic: "topic",
  hashtag: "hashtag",
  length: "length of the text",
  link: "address in the text",
  weekday: "weekday",
};
const VERDICT = {
  better: { tone: "good", word: "does better" },
  worse: { tone: "wrong", word: "does worse" },
  open: { tone: "quiet", word: "may be chance" },
  few: { tone: "quiet", word: "too few" },
} as const;

/** What does better than usual with the others, how sure it is, and how we use it ourselves. */
export function WorksPage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { params, set } = useAddress();
  const whom = useWhom();
  const of = GROUPINGS[params.get("of") ?? ""] ? (params.get("of") as string) : "format";
  const found = useWorks(brand.slug, study, whom, of);
  const box = useRef<HTMLElement>(null);
  const data = found.data;
  const search = carriedAll(useLocation().search);
  const nameOf = (work: Work) => (of === "format" ? (formatNames[work.name] ?? work.name) : work.name);
  const kind = { kind: "competitors.works", params: { set: whom.set, by: of } };
  return (
    <CompetitorsFrame actions={<SaveAs name={`works-by-${of}`} table={kind} />}>
      <section ref={box} className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="works-title">
        <h1 id="works-title" className="text-[18px] leading-6">
          {data ? worksTitle(data, nameOf) : "What works in the field"}
        </h1>
        <p className="label">
          The others' posts by{" "}
          <Choice
            label="Sorted by"
            value={of}
            options={Object.entries(GROUPINGS).map(([value, label]) => ({ value, label }))}
            onChoose={(value) => set("of", value)}
          >
            {GROUPINGS[of]}
          </Choice>
          , {ageName(study.age ?? data?.age_hours ?? 72)}, each against its profile's own typical and against their
          other posts: bars as it is, rings with profile and format held. With so many groups a few would stand out by
          chance: those are kept to one in twenty of what is claimed. For hours:{" "}
          <Link
            to={`/${brand.slug}/timing?${whom.set ? `set=${whom.set}` : "whose=competitors"}`}
            className="under hover:text-berry"
          >
            their week
          </Link>
          .
        </p>
        {data && data.not_read > 0 && (
          <p className="label">Read for topics were the newest posts; {plural(data.not_read, "older one")} were not.</p>
        )}
        {found.error ? (
          <Failed error={found.error} onRetry={() => found.refetch()} />
        ) : !data ? (
          <Loading what="Sorting their posts" lines={9} />
        ) : data.groups.length === 0 ? (
          <Empty title="There is nothing to sort here">
            {of === "topic"
              ? "A topic takes five posts of two profiles. Choose a longer period."
              : "Choose a longer period, or another set."}
          </Empty>
        ) : (
          <table className="mt-2 w-full">
            <caption className="sr-only">Groups of the others' posts</caption>
            <thead className="label">
              <tr className="h-7 border-b border-rule-strong text-left">
                <th className="font-normal">{of === "topic" ? "Topic" : "Group"}</th>
                <th className="w-16 text-right font-normal">Posts</th>
                <th className="w-20 text-right font-normal">Index</th>
                <th className="w-20 text-right font-normal">Times</th>
                <th className="w-[28%] px-4 font-normal">
                  <RatioAxis groups={data.groups} />
                </th>
                <th className="w-32 font-normal">Verdict</th>
                <th className="font-normal">Our own use</th>
                <th className="w-36 font-normal">
                  <span className="sr-only">Posts</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {data.groups.map((work) => (
                <Group key={work.key} {...{ work, data, search, of, kind }} name={nameOf(work)} set={whom.set} />
              ))}
            </tbody>
          </table>
        )}
      </section>
    </CompetitorsFrame>
  );
}

function worksTitle(data: Works, nameOf: (work: Work) => string): string {
  const better = data.groups.filter((g) => g.verdict === "better");
  const unused = better.find((g) => g.ours === 0);
  if (unused) return `${nameOf(unused)} does better than the rest with the others, and we do not use it`;
  if (better[0]) return `${nameOf(better[0])} does better than the rest with the others`;
  return data.groups.some((g) => g.verdict === "worse")
    ? "Nothing does better than the rest beyond chance"
    : "Nothing stands out from the rest beyond chance";
}

type GroupProps = {
  work: Work;
  data: Works;
  name: string;
  search: string;
  of: string;
  set?: number;
  kind: { kind: string; params: { set?: number; by: string } };
};

function Group({ work, data, name, search, of, kind }: GroupProps) {
  const { brand, can } = useBrand();
  const draft = new URLSearchParams({ text: of === "hashtag" ? `#${work.key}` : work.terms.slice(0, 4).join(" ") });
  const asked = new URLSearchParams(search);
  if (of === "hashtag") asked.set("hashtag", work.key);
  if (of === "format") asked.set("format", work.key);
  if (of === "topic") asked.set("text", work.terms[0] ?? "");
  const verdict = VERDICT[work.verdict];
  const times = work.adjusted ?? work.raw;
  return (
    <tr className={`rowline h-9 ${work.verdict === "few" ? "text-muted" : ""}`}>
      <td className="pr-3">
        <span className="font-semibold">{name}</span>
        {work.terms.length > 4 && (
          <span className="label block truncate" title={work.terms.join(", ")}>
            {work.terms.slice(4, 9).join(" ")}
          </span>
        )}
      </td>
      <td className="text-right">{figure(work.n)}</td>
      <td
        className="text-right"
        title={
          work.interval ? `${figure(work.interval.low, "index")} to ${figure(work.interval.high, "index")}` : undefined
        }
      >
        {figure(work.index, "index")}
      </td>
      <td className="text-right">
        {times ? (
          <FigureValue
            {...kind}
            cell={`${work.key}.${work.adjusted ? "held" : "ratio"}`}
            label={`times their other posts, ${name}`}
          >
            {figure(times.value, "index")}
          </FigureValue>
        ) : (
          figure(null)
        )}
      </td>
      <td className="px-4">
        <RatioPlot name={name} group={work} groups={data.groups} isOurs={false} />
      </td>
      <td>
        <StateWord tone={verdict.tone}>{verdict.word}</StateWord>
      </td>
      <td className="text-berry">
        {usageWords(work, data.ours_of, data.posts)}
        {work.our_index !== null && `; ours get ${figure(work.our_index, "index")}`}
      </td>
      <td className="whitespace-nowrap text-right">
        {["hashtag", "format", "topic"].includes(of) && (
          <Link to={`/${brand.slug}/competitors/posts?${asked}`} className="under hover:text-berry">
            their posts
          </Link>
        )}
        {["hashtag", "topic"].includes(of) && can("plan.write") && (
          <Link to={`/${brand.slug}/plan/new?${draft}`} className="under ml-3 hover:text-berry">
            write one
          </Link>
        )}
      </td>
    </tr>
  );
}
