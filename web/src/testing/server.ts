/** A server in the test's own hands: says what it was told to, notes what it was asked, and lets nothing pass unseen. */

import type { Schemas } from "../api/client";
import { PERMISSIONS } from "../study/permissions";
import { sample } from "./sample";

export const BRAND = "orrery-house";
export const NOW = "2026-11-25T12:00:00Z";

/** A request as a screen sent it. */
export type Asked = { method: string; path: string; query: URLSearchParams; body: unknown };
type Answer = unknown | ((asked: Asked) => unknown);
/** "GET /links" below the brand's address, or "GET //session" below the API's, to what is answered. */
export type Answers = Record<string, Answer>;

/** An error as the server tells it (RFC 9457). */
export class Refusal {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly errors: Record<string, string[]> = {},
    readonly kind = "invalid",
  ) {}
}

/** A request that is not answered before somebody says so. */
export class Held {
  answer: (said: unknown) => void = () => undefined;
  readonly said = new Promise<unknown>((done) => {
    this.answer = done;
  });
}

export class FakeServer {
  readonly asked: Asked[] = [];
  readonly unknown: string[] = [];

  constructor(private readonly answers: Answers) {}

  async answer(request: Request): Promise<Response> {
    const url = new URL(request.url);
    const path = url.pathname.replace("/api/", "//").replace(`//brands/${BRAND}`, "") || "/";
    const asked = { method: request.method, path, query: url.searchParams, body: await bodyOf(request) };
    this.asked.push(asked);
    const key = `${request.method} ${path}`;
    if (!(key in this.answers)) {
      this.unknown.push(key);
      return answerOf(new Refusal(404, `Nobody told the test's server about ${key}.`));
    }
    const told = this.answers[key];
    const said = typeof told === "function" ? await (told as (asked: Asked) => unknown)(asked) : told;
    return answerOf(said instanceof Held ? await said.said : said);
  }

  /** What was sent with a method to a path, in order. */
  sent(key: string): Asked[] {
    return this.asked.filter((a) => `${a.method} ${a.path}` === key);
  }
}

/** What was sent: values, or the name of a file. */
async function bodyOf(request: Request): Promise<unknown> {
  if (request.method === "GET") return undefined;
  if (request.headers.get("Content-Type")?.startsWith("multipart/")) {
    return ((await request.formData()).get("file") as File).name;
  }
  const text = await request.text();
  return text ? JSON.parse(text) : undefined;
}

function answerOf(said: unknown): Response {
  if (said instanceof Refusal) {
    const body = { type: `urn:dakika:problem:${said.kind}`, detail: said.detail, errors: said.errors };
    return Response.json(body, { status: said.status });
  }
  if (said instanceof Blob) return new Response(said);
  return said === undefined ? new Response(null, { status: 204 }) : Response.json(said);
}

let standing: FakeServer | undefined;

export function current(): FakeServer {
  if (!standing) throw new Error("No server stands: open a screen with screenAt().");
  return standing;
}

export function stand(answers: Answers): FakeServer {
  standing = new FakeServer(answers);
  return standing;
}

const network = (key: string, name: string, monogram: string): Schemas["Network"] =>
  sample("Network", { key, name, monogram, is_connectable: true, text_limit: 280, has_public_profiles: true });

/** What the shell asks for on every screen. */
export function shell(role: "editor" | "viewer" = "editor"): Answers {
  const may = PERMISSIONS.filter((name) => role === "editor" || name.endsWith(".read"));
  const brand = { slug: BRAND, name: "Orrery House", role: role === "editor" ? ("admin" as const) : role };
  return {
    "GET //session": sample("Session", {
      name: "Mira Duarte",
      email: "mira@ninthbell.example",
      language: "en",
      theme: "system",
      brands: [brand],
    }),
    "GET /": sample("Brand", { ...brand, may, time_zone: "Europe/Lisbon", first_weekday: 0, now: NOW }),
    "GET //networks": [network("commons", "Commons", "Co"), network("brevi", "Brevi", "Br")],
    "GET /line": sample("Line"),
    "GET /plan": sample("Plan"),
    "GET /plan/going-out": sample("GoingOut"),
    "GET /plan/writing": sample("Writing", { content: null }),
    "PUT /plan/writing": sample("Writing", { content: null }),
    "DELETE /plan/writing": undefined,
    "GET /plan/hashtags": [],
    "GET /plan/own-feed": { feed: sample("OwnFeed"), items: [], next: null },
    "GET /plan/push": { channel: sample("Push"), messages: [], next: null },
    "GET /plan/review-rules": { steps: [], may_approve_own: false, remind_hours: 24 },
    "GET /plan/to-review": [],
    "GET /foresight/under-way": [],
    "GET /foresight/planned": sample("PlannedExpected"),
    "POST /foresight/expected": sample("Expected"),
    "GET /timing/slots": [],
    "GET /preferences": { values: {} },
    "GET /first-steps": [],
    "GET //account/demo": sample("Demo", { state: "none", is_offered: true, slug: null, until: null }),
    "GET /studies": [],
    "GET /notifications": { unread: 0, notifications: [] },
    "GET /campaigns": [],
    "GET /sources": sample("Sources"),
    "GET /results/targets": [],
    "GET /competitors/sets": sample("PeerSets"),
    "GET /results/tags": [],
    "GET /results/metrics": sample("Catalogue"),
    "GET /results/findings": sample("Findings"),
    "GET /results/footing": sample("Footing", { age_hours: 72, age_words: "at 72 hours", posts: 9 }),
  };
}
