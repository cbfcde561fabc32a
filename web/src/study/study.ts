/** What is studied: kept whole in the address, so that a view can be sent to a colleague and back works. */

import { useCallback, useMemo } from "react";
import { useSearchParams } from "react-router";
import { addDays, type Day, daysBetween, isDay } from "../lib/days";
import { formatNames } from "../lib/format";
import { type Part, useParts } from "./areas";
import { useBrand } from "./brand";
import { readChosen, writeChosen } from "./chosen";
import { useFooting } from "./footing";

export type Compare = "previous" | "aligned" | "year_before";
/** Hours; 0 as last seen, -1 the final count. */
export type Age = -1 | 0 | 24 | 72 | 168 | 672;
export type Study = {
  first: Day;
  last: Day;
  compare: Compare;
  /** Sets, as the address writes them (chosen.ts): any of some, or everything but them. */
  network?: string;
  profile?: string;
  format?: string;
  tag?: string;
  campaign?: string;
  language?: string;
  boosted?: "yes" | "no";
  /** Left out: whichever the posts allow. */
  age?: Age;
};

/** The server's own bound. */
export const LONGEST_DAYS = 800;

export const AGES: Age[] = [24, 72, 168, 672, -1, 0];
const AGE_NAMES: Record<number, string> = {
  [-1]: "at their final count",
  0: "as last seen",
  168: "at 7 days",
  672: "at 28 days",
};
export const ageName = (age: number) => AGE_NAMES[age] ?? `at ${age} hours`;
const isKey = (value: string) => /^[1-9]\d{0,17}$/.test(value);
const COMPARES: Compare[] = ["previous", "aligned", "year_before"];

export function readStudy(params: URLSearchParams, today: Day): Study {
  const last = isDay(params.get("last")) ? (params.get("last") as string) : today;
  const given = params.get("first");
  const first = isDay(given) && given <= last ? given : addDays(last, -27);
  const compare = params.get("compare") as Compare;
  const age = Number(params.get("age") ?? Number.NaN) as Age;
  const chosen = (name: string, isValue: (value: string) => boolean) =>
    writeChosen(readChosen(params.get(name), isValue));
  const boosted = params.get("boosted");
  return {
    first,
    last,
    compare: COMPARES.includes(compare) ? compare : "previous",
    network: chosen("network", (value) => /^[\w.-]{1,40}$/.test(value)),
    profile: chosen("profile", isKey),
    format: chosen("format", (value) => value in formatNames),
    tag: chosen("tag", isKey),
    campaign: chosen("campaign", isKey),
    language: chosen("language", (value) => /^[a-z]{2,3}$/.test(value)),
    boosted: boosted === "yes" || boosted === "no" ? boosted : undefined,
    age: AGES.includes(age) ? age : undefined,
  };
}

/** What is wrong with the period that an address asks for, in words; empty where nothing is. It is said, not replaced. */
export function wrongPeriod(params: URLSearchParams): string {
  const [first, last] = [params.get("first"), params.get("last")];
  for (const told of [first, last])
    if (told !== null && !isDay(told))
      return `The address asks for ${String(told).slice(0, 40)}, and there is no such day.`;
  if (!first || !last) return "";
  if (last < first) return `The address asks for ${first} to ${last}: it ends before it begins.`;
  return daysBetween(first, last) > LONGEST_DAYS ? `A period has at most ${LONGEST_DAYS} days.` : "";
}

/** The period held against: the same rule as the core's, for drawing the brush while it is dragged. */
export function comparedSpan(study: Pick<Study, "first" | "last" | "compare">): { first: Day; last: Day } {
  const days = daysBetween(study.first, study.last) + 1;
  const back = study.compare === "previous" ? days : study.compare === "aligned" ? Math.ceil(days / 7) * 7 : 364;
  return { first: addDays(study.first, -back), last: addDays(study.last, -back) };
}

/** The fields that each part of the sentence tells. */
const FIELDS: Record<Part, readonly (keyof Study)[]> = {
  profile: ["network", "profile"],
  network: ["network"],
  format: ["format"],
  narrow: ["tag", "campaign", "language", "boosted"],
  campaign: ["campaign"],
  age: ["age"],
  against: ["compare"],
};

/** The study without what a view's sentence does not say: an address may carry more, from another view. */
export function studyOf(study: Study, has: readonly Part[]): Study {
  const kept: Study = { first: study.first, last: study.last, compare: "previous" };
  for (const part of has) for (const field of FIELDS[part]) Object.assign(kept, { [field]: study[field] });
  return kept;
}

/** The study as the view at this address goes by it: it narrows by all of its sentence, and by nothing else. */
export function useStudy() {
  const { brand, today } = useBrand();
  const [params, setParams] = useSearchParams();
  const has = useParts();
  const study = useMemo(() => {
    const asked = readStudy(params, today);
    return has ? studyOf(asked, has) : asked;
  }, [params, today, has]);
  const change = useCallback(
    (patch: Partial<Record<keyof Study | "day", string | number | undefined>>, replace = false) =>
      setParams(
        (old) => {
          const next = new URLSearchParams(old);
          for (const [name, value] of Object.entries(patch))
            if (value === undefined || value === "") next.delete(name);
            else next.set(name, String(value));
          return next;
        },
        { replace },
      ),
    [setParams],
  );
  return { study, change, zone: brand.time_zone };
}

/** The age at which posts are compared: the one chosen, else the one that they allow, with what there is to say of it. */
export function useAge(): { age: Age; words: string; why: string } {
  const { study } = useStudy();
  const found = useFooting().data;
  const age = study.age ?? ((found?.age_hours ?? 72) as Age);
  return { age, words: ageName(age), why: study.age === undefined ? (found?.why ?? "") : "" };
}

/** The filters on posts that a view may have on. */
export const NARROWING = ["tag", "campaign", "language", "boosted"] as const;

const languages = new Intl.DisplayNames(["en-GB"], { type: "language" });

export function languageName(code: string): string {
  try {
    return languages.of(code) ?? code;
  } catch {
    return code;
  }
}

/** The parts of an address that go along from area to area. */
export function carried(search: string): string {
  const old = new URLSearchParams(search);
  const kept = new URLSearchParams();
  for (const name of ["first", "last", "compare"]) {
    const value = old.get(name);
    if (value) kept.set(name, value);
  }
  const text = kept.toString();
  return text ? `?${text}` : "";
}

/** What goes along from view to view of one area: everything that is studied, nothing of how a view was sorted. */
export function carriedAll(search: string): string {
  const old = new URLSearchParams(search);
  const kept = new URLSearchParams();
  for (const name of ["first", "last", "compare", "network", "profile", "format", ...NARROWING, "age", "set", "rows"]) {
    const value = old.get(name);
    if (value) kept.set(name, value);
  }
  const text = kept.toString();
  return text ? `?${text}` : "";
}
