import type { ReactNode } from "react";
import { spanText } from "../lib/days";
import { formatNames, plural } from "../lib/format";
import { Choice } from "../ui/Choice";
import { useParts } from "./areas";
import { networkNamed, useBrand } from "./brand";
import { useFooting } from "./footing";
import { lengthOf } from "./line/geometry";
import { PeriodChoice } from "./PeriodChoice";
import { useCampaigns, useLine, useProfiles, useTags } from "./queries";
import { AGES, ageName, type Compare, comparedSpan, languageName, NARROWING, useAge, useStudy } from "./study";

const COMPARED: Record<Compare, (days: number) => string> = {
  previous: (days) => `the ${days} days before`,
  aligned: () => "the same weekdays before",
  year_before: () => "the same weeks a year before",
};

/** What the figures are about, as a sentence; each underlined part opens its choice. */
export function StudySentence({ children }: { children?: ReactNode }) {
  const has = useParts() ?? [];
  const { brand, networks } = useBrand();
  const { study, change } = useStudy();
  const sources = useProfiles(brand.slug);
  const own = (sources.data?.profiles ?? []).filter((profile) => profile.kind === "own");
  const days = lengthOf(study);
  const { age, words, why } = useAge();
  const known = useFooting().data?.known ?? [];
  const network = networks.find((n) => n.key === study.network);
  const profile = own.find((p) => p.id === study.profile);
  const nameOf = (key: string) => networkNamed(networks, key).name;
  const choice = study.profile ? `p${study.profile}` : study.network ? `n${study.network}` : "";
  return (
    <div className="flex h-[34px] items-center justify-between gap-4 overflow-hidden border-b border-rule px-5 narrow:h-auto narrow:flex-wrap narrow:gap-y-1 narrow:px-3 narrow:py-1.5">
      <p className="truncate narrow:whitespace-normal">
        Studying{" "}
        {has.includes("profile") && (
          <>
            <Choice
              label="Profiles studied"
              value={choice}
              options={[
                { value: "", label: "all profiles" },
                ...networks.map((n) => ({ value: `n${n.key}`, label: `all on ${n.name}` })),
                ...own.map((p) => ({ value: `p${p.id}`, label: p.name, hint: nameOf(p.network) })),
              ]}
              onChoose={(value) =>
                change({
                  profile: value.startsWith("p") ? value.slice(1) : undefined,
                  network: value.startsWith("n") ? value.slice(1) : undefined,
                })
              }
            >
              {profile
                ? `${profile.name} on ${nameOf(profile.network)}`
                : network
                  ? `all on ${network.name}`
                  : "all profiles"}
            </Choice>
            ,{" "}
          </>
        )}
        {has.includes("format") && (
          <>
            <Choice
              label="Format studied"
              value={study.format ?? ""}
              options={[
                { value: "", label: "any format" },
                ...Object.entries(formatNames).map(([value, label]) => ({ value, label })),
              ]}
              onChoose={(value) => change({ format: value || undefined })}
            >
              {study.format ? formatNames[study.format]?.toLowerCase() : "any format"}
            </Choice>
            ,{" "}
          </>
        )}
        {has.includes("narrow") && <Narrowing />}
        <PeriodChoice />
        {has.includes("age") && (
          <>
            , posts{" "}
            <Choice
              label="Age at which posts are compared"
              value={study.age === undefined ? "" : String(age)}
              options={[
                { value: "", label: "what the posts allow", hint: study.age === undefined ? words : undefined },
                ...AGES.map((one) => {
                  const at = known.find((k) => k.age_hours === one);
                  return { value: String(one), label: ageName(one), hint: at && plural(at.posts, "post") };
                }),
              ]}
              onChoose={(value) => change({ age: value || undefined })}
            >
              {words}
            </Choice>
            {why && (
              <span className="text-muted" title={why}>
                {" "}
                ({why})
              </span>
            )}
          </>
        )}
        {has.includes("against") && (
          <>
            , against{" "}
            <Choice
              label="Comparison"
              value={study.compare}
              options={(Object.keys(COMPARED) as Compare[]).map((value) => {
                const other = comparedSpan({ ...study, compare: value });
                return { value, label: COMPARED[value](days), hint: spanText(other.first, other.last) };
              })}
              onChoose={(value) => change({ compare: value })}
            >
              {COMPARED[study.compare](days)}
            </Choice>
          </>
        )}
      </p>
      <div className="flex shrink-0 items-center gap-3 narrow:shrink narrow:flex-wrap">{children}</div>
    </div>
  );
}

const NOT: Record<(typeof NARROWING)[number], string> = {
  tag: "any tag",
  campaign: "any campaign",
  language: "any language",
  boosted: "boosted or not",
};

/** What is left open, as the sentence goes on: "any tag or campaign", "any language", "boosted or not". */
function anyOf(names: readonly (keyof typeof NOT)[]): string {
  const things = names.filter((name) => name !== "boosted").slice(0, 2);
  return things.length > 0 ? `any ${things.join(" or ")}` : NOT.boosted;
}

/** What else is asked of posts: what is chosen stands in the sentence, the rest behind one word. */
function Narrowing() {
  const { brand } = useBrand();
  const { study, change } = useStudy();
  const tags = useTags(brand.slug).data ?? [];
  const campaigns = useCampaigns(brand.slug).data ?? [];
  const languages = useLine(brand.slug).data?.languages ?? [];
  const options = {
    tag: tags.map((t) => ({ value: String(t.id), label: t.name })),
    campaign: campaigns.map((c) => ({ value: String(c.id), label: c.name })),
    language: languages.map((code) => ({ value: code, label: languageName(code) })),
    boosted: [
      { value: "yes", label: "boosted" },
      { value: "no", label: "not boosted" },
    ],
  };
  const on = NARROWING.filter((name) => study[name] !== undefined);
  const off = NARROWING.filter((name) => study[name] === undefined && options[name].length > 0);
  const words = { tag: "tagged ", campaign: "of ", language: "in ", boosted: "" };
  return (
    <>
      {on.map((name) => (
        <span key={name}>
          {words[name]}
          <Choice
            label={NOT[name]}
            value={String(study[name])}
            options={[{ value: "", label: NOT[name] }, ...options[name]]}
            onChoose={(value) => change({ [name]: value || undefined })}
          >
            {options[name].find((o) => o.value === String(study[name]))?.label ?? "something unknown"}
          </Choice>
          ,{" "}
        </span>
      ))}
      {off.length > 0 && (
        <>
          <Choice
            label="Narrow to a tag, campaign, language or boosted posts"
            value=""
            options={off.flatMap((name) =>
              options[name].map((o) => ({ value: `${name}:${o.value}`, label: o.label, hint: name })),
            )}
            onChoose={(value) => {
              const [name, ...rest] = value.split(":");
              change({ [name as string]: rest.join(":") });
            }}
          >
            {anyOf(off)}
          </Choice>
          ,{" "}
        </>
      )}
    </>
  );
}
