import type { ReactNode } from "react";
import { spanText } from "../lib/days";
import { formatNames, plural } from "../lib/format";
import { Choice } from "../ui/Choice";
import { SetChoice } from "../ui/SetChoice";
import { useParts } from "./areas";
import { networkNamed, useBrand } from "./brand";
import { type Chosen, listed, readChosen, toggled, writeChosen } from "./chosen";
import { useFooting } from "./footing";
import { KeptStudies } from "./KeptStudies";
import { lengthOf } from "./line/geometry";
import { PeriodChoice } from "./PeriodChoice";
import { useCampaigns, useLine, useProfiles, useTags } from "./queries";
import { StudySet } from "./StudySet";
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
  const nameOf = (key: string) => networkNamed(networks, key).name;
  return (
    <div className="flex h-[34px] items-center justify-between gap-4 overflow-hidden border-b border-rule px-5 narrow:h-auto narrow:flex-wrap narrow:gap-y-1 narrow:px-3 narrow:py-1.5">
      <p className="truncate narrow:whitespace-normal">
        Studying{" "}
        {has.includes("profile") && (
          <>
            <ProfileSet own={own} nameOf={nameOf} />,{" "}
          </>
        )}
        {has.includes("format") && (
          <>
            <StudySet
              field="format"
              label="Formats studied"
              none="any format"
              options={Object.entries(formatNames).map(([value, label]) => ({ value, label }))}
            />
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
      <div className="flex shrink-0 items-center gap-3 narrow:shrink narrow:flex-wrap">
        {has.includes("narrow") && <KeptStudies />}
        {children}
      </div>
    </div>
  );
}

const LABELS = { tag: "Tags studied", campaign: "Campaigns studied", language: "Languages studied" };

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

type Profiles = { id: number; name: string; network: string }[];

/** Whose posts: of some profiles, or of all on some networks. */
function ProfileSet({ own, nameOf }: { own: Profiles; nameOf: (network: string) => string }) {
  const { networks } = useBrand();
  const { study, change } = useStudy();
  const ofNetworks = readChosen(study.network);
  const ofProfiles = readChosen(study.profile);
  const isOfProfiles = ofProfiles.values.length > 0;
  const chosen = isOfProfiles ? ofProfiles : ofNetworks;
  const set = (next: Chosen, isProfile: boolean) =>
    change({
      profile: isProfile ? writeChosen(next) : undefined,
      network: isProfile ? undefined : writeChosen(next),
    });
  const used = networks.filter((n) => own.some((p) => p.network === n.key));
  const names = chosen.values.map((value) => {
    const profile = own.find((p) => String(p.id) === value);
    if (!isOfProfiles) return nameOf(value);
    return profile ? `${profile.name} on ${nameOf(profile.network)}` : "something unknown";
  });
  return (
    <SetChoice
      label="Profiles studied"
      none="all profiles"
      groups={[
        {
          name: "All on a network",
          options: used.map((n) => ({ value: n.key, label: n.name })),
          chosen: ofNetworks.values,
        },
        {
          name: "Profiles",
          options: own.map((p) => ({ value: String(p.id), label: p.name, hint: nameOf(p.network) })),
          chosen: ofProfiles.values,
        },
      ]}
      isNot={chosen.isNot}
      onToggle={(group, value) => {
        const isProfile = group === "Profiles";
        // A choice of the other kind gives way, and so does its "but".
        const from = isProfile ? ofProfiles : ofNetworks;
        set(toggled(from, value), isProfile);
      }}
      onNot={(isNot) => set({ ...chosen, isNot }, isOfProfiles)}
      onClear={() => change({ profile: undefined, network: undefined })}
    >
      {chosen.values.length === 0
        ? "all profiles"
        : chosen.isNot
          ? `all but ${listed(names, "and")}`
          : `${isOfProfiles ? "" : "all on "}${listed(names, "and")}`}
    </SetChoice>
  );
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
  const words = { tag: "tagged ", campaign: "of ", language: "in " };
  return (
    <>
      {on.map((name) => (
        <span key={name}>
          {name === "boosted" ? (
            <Choice
              label={NOT.boosted}
              value={String(study.boosted)}
              options={[{ value: "", label: NOT.boosted }, ...options.boosted]}
              onChoose={(value) => change({ boosted: value || undefined })}
            >
              {study.boosted === "yes" ? "boosted" : "not boosted"}
            </Choice>
          ) : (
            <StudySet field={name} label={LABELS[name]} none={NOT[name]} options={options[name]} before={words[name]} />
          )}
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
