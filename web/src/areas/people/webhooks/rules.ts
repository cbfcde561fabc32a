/** What is said of webhooks and of what they were told. */

import { plural } from "../../../lib/format";
import type { Delivery, EventKind, WebHook } from "./queries";

export type Tone = "good" | "wrong" | "busy" | "quiet";

/** How an address stands, in a word or two. */
export function standing(hook: WebHook): { tone: Tone; words: string } {
  if (!hook.is_on) return { tone: "wrong", words: hook.off_because ? "switched off by itself" : "off" };
  if (hook.failing_since) return { tone: "wrong", words: "does not take it" };
  if (hook.waiting > 0) return { tone: "busy", words: `${plural(hook.waiting, "event")} on the way` };
  return hook.taken_at ? { tone: "good", words: "takes it" } : { tone: "quiet", words: "told nothing yet" };
}

/** What became of one telling. */
export function became(one: Delivery, hook: WebHook): { tone: Tone; words: string } {
  if (one.state === "taken") return { tone: "good", words: "taken" };
  if (one.state === "failed") return { tone: "wrong", words: "given up" };
  if (!hook.is_on) return { tone: "quiet", words: "not sent: it is off" };
  if (one.attempts > 0 && one.error) return { tone: "wrong", words: "to be tried again" };
  return hook.rests_until ? { tone: "quiet", words: "waits its turn" } : { tone: "busy", words: "on its way" };
}

/** Kinds by what they are about: the word before the dot. */
export function byAbout(kinds: EventKind[]): [string, EventKind[]][] {
  const abouts = [...new Set(kinds.map((one) => one.name.split(".")[0] ?? ""))];
  return abouts.map((about) => [about, kinds.filter((one) => one.name.startsWith(`${about}.`))]);
}
