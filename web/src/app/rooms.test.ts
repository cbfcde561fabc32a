import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, normalize, relative } from "node:path";
import { describe, expect, it } from "vitest";

/** The rooms from the ground up: what stands in one imports from it and from those before it. */
const ROOMS = ["lib", "api", "ui", "charts", "study", "figures", "areas", "shell", "app"];
const SRC = "src";

type Import = { file: string; of: string };

function sources(): string[] {
  return readdirSync(SRC, { recursive: true, encoding: "utf8" }).filter((file) =>
    /(?<!\.test|\.gen)\.tsx?$/.test(file),
  );
}

function imports(): Import[] {
  return sources().flatMap((file) =>
    [...readFileSync(join(SRC, file), "utf8").matchAll(/(?:from|import\() ?"(\.[^"]+)"/g)].map(([, of = ""]) => ({
      file,
      of: relative(".", normalize(join(dirname(file), of))),
    })),
  );
}

const room = (path: string) => ROOMS.indexOf(path.split("/")[0] ?? "");
const area = (path: string) => (path.startsWith("areas/") ? path.split("/")[1] : undefined);

describe("the rooms of the front end", () => {
  const all = imports().filter(({ file, of }) => room(file) >= 0 && room(of) >= 0);

  it("promises that each imports downwards alone", () => {
    expect(all.length).toBeGreaterThan(500);
    // Words and shapes of the API stand beside the helpers; both are the ground.
    const ground = (path: string) => Math.max(room(path), 1);
    expect(all.filter(({ file, of }) => ground(of) > ground(file))).toEqual([]);
  });

  it("promises that an area knows of another what its index hands out", () => {
    const other = all.filter(({ file, of }) => area(file) && area(of) && area(file) !== area(of));
    expect(other.filter(({ of }) => of !== `areas/${area(of)}`)).toEqual([]);
  });

  it("promises that the server is asked by the files of queries alone", () => {
    const asking = sources().filter((file) =>
      /\bapi\.(GET|POST|PUT|PATCH|DELETE)\(/.test(readFileSync(join(SRC, file), "utf8")),
    );
    expect(asking.filter((file) => !/(^|\/)(queries|footing|printing)\.ts$/.test(file))).toEqual([]);
  });
});
