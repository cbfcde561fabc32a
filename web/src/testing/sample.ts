/** Values of the API's own description: a test says what it is about, and the description fills in the rest. */

import { existsSync, readdirSync, readFileSync } from "node:fs";
import { load } from "js-yaml";
import type { Schemas } from "../api/client";

type Patch<T> = T extends (infer I)[] ? Patch<I>[] : T extends object ? { [K in keyof T]?: Patch<T[K]> } : T;
type Shape = {
  $ref?: string;
  type?: string;
  format?: string;
  nullable?: boolean;
  enum?: unknown[];
  allOf?: Shape[];
  oneOf?: Shape[];
  items?: Shape;
  properties?: Record<string, Shape>;
};
// Each area's part stands in its room.
const ROOMS = "../server/dakika_server";
let described: Record<string, Shape> | undefined;

/** Read once, and only by tests that ask. */
function schemas(): Record<string, Shape> {
  described ??= Object.assign(
    {},
    ...readdirSync(ROOMS)
      .map((area) => `${ROOMS}/${area}/openapi.yaml`)
      .filter(existsSync)
      .map(
        (path) =>
          (load(readFileSync(path, "utf8")) as { components: { schemas: Record<string, Shape> } }).components.schemas,
      ),
  ) as Record<string, Shape>;
  return described;
}

const DAY = "2026-11-25";

/** A value of a schema with some parts as the test wants them; lists are empty and what may be null is, unless named. */
export function sample<K extends keyof Schemas>(
  name: K,
  patch: Patch<Schemas[K]> = {} as Patch<Schemas[K]>,
): Schemas[K] {
  const shape = schemas()[name];
  if (!shape) throw new Error(`The API has no ${name}.`);
  return filled(shape, patch) as Schemas[K];
}

function filled(shape: Shape, patch: unknown): unknown {
  const known = resolved(shape);
  if (patch === null) return null;
  if (Array.isArray(patch)) return patch.map((part) => filled(known.items ?? {}, part));
  if (known.properties && (patch === undefined ? !shape.nullable : typeof patch === "object")) {
    const given = (patch ?? {}) as Record<string, unknown>;
    const extra = Object.keys(given).filter((name) => !(name in (known.properties ?? {})));
    if (extra.length > 0) throw new Error(`The API knows no ${extra.join(", ")} here.`);
    return Object.fromEntries(
      Object.entries(known.properties).map(([name, part]) => [name, filled(part, given[name])]),
    );
  }
  return patch === undefined ? plain(shape, known) : patch;
}

function resolved(shape: Shape): Shape {
  const inner = shape.$ref ? schemas()[shape.$ref.split("/").at(-1) ?? ""] : undefined;
  const first = inner ?? shape.allOf?.[0] ?? shape.oneOf?.[0];
  return first ? resolved(first) : shape;
}

function plain(shape: Shape, known: Shape): unknown {
  if (shape.nullable || known.nullable) return null;
  if (known.enum) return known.enum[0];
  switch (known.type) {
    case "array":
      return [];
    case "boolean":
      return false;
    case "integer":
    case "number":
      return 0;
    case "string":
      return known.format === "date" ? DAY : known.format === "date-time" ? `${DAY}T12:00:00Z` : "";
    default:
      return {};
  }
}
