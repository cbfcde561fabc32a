/** What a trial says, by rule; never more than its interval. */

import { figure, interval, percent, plural } from "../../lib/format";
import type { Trial } from "./queries";
import { minuteName } from "./rules";

type Length = { pairs: number | null; power: number; usual: number | null; most: number };

type Slots = { minute: number }[];
export type TwoRhythms = { profile: number; first: number[]; second: number[] };

/** What is kept against what is proposed, for each profile where the two differ by two hours somewhere. */
export function rhythmsOf(kept: { profile: number; slots: Slots }[], proposed: { profile: number; slots: Slots }[]) {
  const found: TwoRhythms[] = [];
  for (const one of kept) {
    const first = one.slots.map((slot) => slot.minute);
    const second = proposed.find((p) => p.profile === one.profile)?.slots.map((slot) => slot.minute) ?? [];
    const two = { profile: one.profile, first, second };
    if (othersIn(two) > 0 && first.length === second.length) found.push(two);
  }
  return found;
}

/** How many times of the second are none of the first, within two hours: the fewer, the less a trial can show. */
export const othersIn = ({ first, second }: TwoRhythms) =>
  second.filter((b) => first.every((a) => apart(a, b) >= 120)).length;

const apart = (a: number, b: number) => Math.min(Math.abs(a - b), 7 * 1440 - Math.abs(a - b));

/** How long it takes, said before it begins. */
export function lengthWords(length: Length, worth: number): string {
  const size = percent(worth - 1);
  if (length.pairs === null)
    return `Even ${plural(2 * length.most, "week")} are too few to find a difference of ${size}: it would be found ${percent(length.power)} of the time. Take more profiles, more times a week, or a larger difference.`;
  const usual = length.usual === null ? "" : ` When there is one, it usually shows after ${2 * length.usual}.`;
  return `${plural(2 * length.pairs, "week")} at most, to find a difference of ${size}: ${percent(length.power)} of the time it is found.${usual}`;
}

export const names = (minutes: readonly number[]) => minutes.map(minuteName).join(", ");

export function outcomeWords(trial: Trial): string {
  const { outcome } = trial;
  const over = `${outcome.pairs} of ${plural(trial.pairs, "pair")} of weeks ${outcome.pairs === 1 ? "is" : "are"} read`;
  if (outcome.ratio === null) return outcome.verdict === "no_difference" ? "Nothing was published at its times" : over;
  const range =
    outcome.low !== null && outcome.high !== null
      ? ` (${interval(outcome.low, outcome.high, "index")}, ${percent(1 - trial.error)}, however often one looks)`
      : "";
  const told = `${trial.of_rhythms ? "The second rhythm" : names(trial.second)} did ${figure(outcome.ratio, "index")} times as well${range}`;
  if (outcome.verdict === "second") return told;
  if (outcome.verdict === "first") return told;
  if (outcome.verdict === "no_difference") return `No difference can be shown: ${told}`;
  return trial.state === "stopped" ? `Stopped early, nothing is settled: ${told}` : `Not settled yet, ${over}: ${told}`;
}
