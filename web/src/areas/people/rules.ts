/** What is worked out for the team's and one's own page. */

import { plural } from "../../lib/format";
import { ROLE_WORDS, ROLES } from "../../study/permissions";
import type { Account, Member, NoticeChoices, Team } from "./queries";

export const roleOptions = ROLES.map((role) => ({ value: role, label: role, hint: ROLE_WORDS[role] }));

/** How many work for a brand, and what of it wants looking after. */
export function teamTitle(team: Team, brand: string): string {
  const people = team.members.filter((one) => !one.is_program);
  const count = people.length;
  const bare = people.filter((one) => one.has_second_factor === false && one.role === "admin");
  const who =
    count === 1
      ? `You alone work for ${brand}`
      : `${plural(count, "person")} work for ${brand}`.replace("persons", "people");
  if (bare.length === 0) return who;
  const names =
    bare.length === 1
      ? bare[0]?.is_me
        ? "you, an admin, sign"
        : `${bare[0]?.name}, an admin, signs`
      : `${bare.length} admins sign`;
  return `${who}; ${names} in with a password alone`;
}

/** Who can take over what somebody leaves: those who may work with it. */
export function heirs(members: Member[], leaving: Member): Member[] {
  return members.filter((one) => one.id !== leaving.id && !one.is_program && !["viewer", "guest"].includes(one.role));
}

/** What protects an account, in a sentence that says what is missing. */
export function safetyTitle(account: Account): string {
  const has = account.has_codes || account.passkeys.length > 0;
  if (!has) return "Your password alone lets you in";
  if (account.recovery_codes_left === 0) return "If your device is lost, nothing lets you in";
  if (account.recovery_codes_left <= 3)
    return `Only ${plural(account.recovery_codes_left, "recovery code")} left, should your device be lost`;
  return "Your account is protected by more than a password";
}

/** Who did something; Dakika itself where nobody did. */
export function whoSaid(name: string, isKnown: boolean): string {
  return name || (isKnown ? "Dakika" : "somebody who is gone");
}

/** A value of a row as it is read: what is nothing is said so, what is no text is written out. */
export function said(value: unknown): string {
  if (value === null || value === undefined || value === "" || (Array.isArray(value) && value.length === 0))
    return "nothing";
  if (value === true) return "yes";
  if (value === false) return "no";
  if (typeof value === "string") {
    const instant = /^(\d{4}-\d\d-\d\d)T(\d\d:\d\d)/.exec(value);
    return instant ? `${instant[1]} ${instant[2]}` : value;
  }
  if (Array.isArray(value)) return value.map(said).join(", ");
  return typeof value === "object" ? JSON.stringify(value) : String(value);
}

/** What somebody is told of a brand, in a sentence. */
export function noticesTitle(kinds: NoticeChoices["kinds"], brand: string): string {
  const [here, mail] = [
    kinds.filter((one) => one.is_shown).length,
    kinds.filter((one) => one.by_mail !== "never").length,
  ];
  if (here === 0 && mail === 0) return `You are told nothing of ${brand}`;
  const told =
    here === kinds.length ? `everything of ${brand} here` : `${here} of ${kinds.length} kinds of things here`;
  return `You are told ${told}, ${mail === 0 ? "and nothing by mail" : `and ${mail === kinds.length ? "all" : mail} by mail`}`;
}

/** The heading of how an installation runs: no more than what is seen. */
export function statusTitle(parts: readonly { words: string; is_well: boolean; is_down: boolean }[]): string {
  const down = parts.filter((one) => one.is_down).map((one) => one.words.toLowerCase());
  if (down.length > 0) return `Not everything works: ${down.join(", ")}`;
  const doubtful = parts.filter((one) => !one.is_well).map((one) => one.words.toLowerCase());
  return doubtful.length > 0 ? `Everything works; look at ${doubtful.join(", ")}` : "Everything works";
}
