/** The one way to the server. Types come from the OpenAPI description; errors are problem documents. */

import createClient, { type Middleware } from "openapi-fetch";
import type { paths, Schemas } from "./types";

export type { Schemas };

export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly kind: string,
    message: string,
    readonly fields: Record<string, string> = {},
  ) {
    super(message);
  }
}

function cookie(name: string): string {
  return document.cookie.match(new RegExp(`(?:^|; )${name}=([^;]*)`))?.[1] ?? "";
}

/** Whether the browser has the token that changes need. */
export const hasToken = () => cookie("csrftoken") !== "";

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", cookie("csrftoken"));
    return request;
  },
};

export const api = createClient<paths>({ baseUrl: "/" });
api.use(withToken);

type Problem = { type?: string; detail?: string; errors?: Record<string, string[]> };

/** A problem document as an error that screens can show: one sentence, and sentences by field. */
export function problemOf(status: number, body: unknown): ProblemError {
  const said = (body ?? {}) as Problem;
  const fields = Object.fromEntries(Object.entries(said.errors ?? {}).map(([name, texts]) => [name, texts[0] ?? ""]));
  const kind = said.type?.split(":").pop() ?? "error";
  return new ProblemError(status, kind, said.detail ?? "The server did not answer as expected. Try again.", fields);
}

/** The data of an answer. Throws ProblemError, also when the server cannot be reached. */
export async function unwrap<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<NonNullable<T>> {
  let answer: { data?: T; error?: unknown; response: Response };
  try {
    answer = await call;
  } catch {
    throw new ProblemError(0, "offline", "Dakika cannot be reached. Is it running? Your input is kept.");
  }
  if (!answer.response.ok) throw problemOf(answer.response.status, answer.error);
  return (answer.data ?? {}) as NonNullable<T>;
}
