/** Words of hashtags: how they did, how much they are used, and what to beware of. */

import { figure, plural, short } from "../../../lib/format";
import type { Hashtag } from "./queries";

type Result = NonNullable<Hashtag["own"]>;

/** "1.26 (1.03 to 1.55)": times the other posts, with the interval; a dash where it cannot be told. */
export function timesWords(result: Result | null): string {
  if (!result || result.times === null) return "–";
  if (result.low === null || result.high === null) return figure(result.times, "index");
  return `${figure(result.times, "index")} (${figure(result.low, "index")}–${figure(result.high, "index")})`;
}

export const toneOf = (result: Result | null) =>
  result?.verdict === "better" ? "text-up" : result?.verdict === "worse" ? "text-down" : "";

/** All uses over the networks that tell, the largest first. */
export function usesOf(tag: Pick<Hashtag, "seen">): { network: string; uses: number; week: number | null }[] {
  return tag.seen
    .flatMap(({ network, uses, week }) => (uses === null ? [] : [{ network, uses, week }]))
    .sort((a, b) => b.uses - a.uses);
}

/** What to beware of: networks that hide it, and that it has worn out for us. */
export function warnings(tag: Pick<Hashtag, "seen" | "wear">, nameOf: (network: string) => string): string[] {
  const hidden = tag.seen.filter((one) => one.is_restricted).map((one) => nameOf(one.network));
  const wear = tag.wear;
  return [
    hidden.length > 0 ? `hidden by ${hidden.join(" and ")}` : "",
    wear?.is_worn
      ? `worn out: the last ${plural(wear.recent, "post")} got ${figure(wear.times, "index")} times (${figure(wear.low, "index")}–${figure(wear.high, "index")}) those before`
      : "",
  ].filter(Boolean);
}

/** "512k on Commons, 4.1k on Brevi", with the week where a network tells of it. */
export function usesWords(tag: Pick<Hashtag, "seen">, nameOf: (network: string) => string): string {
  const told = usesOf(tag).map(
    ({ network, uses, week }) =>
      `${short(uses)} on ${nameOf(network)}${week === null ? "" : ` (${short(week)} in the last week)`}`,
  );
  const none = tag.seen.filter((one) => one.uses === null && !one.problem).map((one) => nameOf(one.network));
  if (none.length > 0) told.push(`nobody on ${none.join(", ")}`);
  const silent = tag.seen.filter((one) => one.problem).map((one) => nameOf(one.network));
  if (silent.length > 0) told.push(`${silent.join(", ")} would not tell`);
  return told.join(", ");
}

/** "warm 61%, cold 12% on Commons": how people feel under its posts, where a network tells. */
export function moodWords(tag: Pick<Hashtag, "seen">, nameOf: (network: string) => string): string {
  return tag.seen
    .flatMap(({ network, warm, cold }) =>
      warm === null || cold === null
        ? []
        : [`${figure(warm, "rate")} warm, ${figure(cold, "rate")} cold on ${nameOf(network)}`],
    )
    .join("; ");
}

/** Hashtags as somebody types them: apart by spaces or commas, with their sign or without, each once. */
export function tagsIn(text: string): string[] {
  const found = text.split(/[\s,;]+/).map((one) => one.replace(/[^\p{L}\p{N}_]/gu, "").toLowerCase());
  return [...new Set(found.filter(Boolean))];
}
