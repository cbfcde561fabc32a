// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Asked, sample, screen, screenAt, waitFor } from "../testing";

const step = (key: string, is_done: boolean, permission = "sources.files") =>
  sample("FirstStep", {
    key,
    title: `Do ${key}`,
    gives: `It gives ${key}.`,
    path: `sources/${key}`,
    permission,
    is_done,
  });
const empty = (steps: unknown[], kept: object = {}) => {
  let preferences = kept;
  return screenAt("sources", {
    "GET /sources": sample("Sources", { profiles: [], runs: [] }),
    "GET /first-steps": steps,
    "GET /preferences": () => ({ values: preferences }),
    "PUT /preferences/first-steps": ({ body }: Asked) => {
      preferences = { "first-steps": (body as { value: string }).value };
      return body;
    },
  });
};

describe("the first steps", () => {
  it("promises what each gives, how far it is, and a way to each that is not done", async () => {
    empty([step("file", true), step("profile", false)]);
    expect(await screen.findByText("1 of 2 done")).toBeTruthy();
    expect(screen.queryByRole("link", { name: "Do file" })).toBeNull();
    expect(screen.getByRole("link", { name: "Do profile" }).getAttribute("href")).toContain("/sources/profile");
  });

  it("promises to be gone when all is done, or when somebody had enough of it", async () => {
    empty([step("file", true)]);
    await screen.findByText("Nothing is collected yet");
    expect(screen.queryByText(/of 1 done/)).toBeNull();
  });

  it("promises to stay away once it was sent away", async () => {
    empty([step("file", false)], { "first-steps": "away" });
    await screen.findByText("Nothing is collected yet");
    expect(screen.queryByRole("button", { name: "Enough of this" })).toBeNull();
  });

  it("promises that sending it away is kept", async () => {
    const { user, server } = empty([step("file", false)]);
    await user.click(await screen.findByRole("button", { name: "Enough of this" }));
    await waitFor(() => expect(server.sent("PUT /preferences/first-steps")[0]?.body).toEqual({ value: "away" }));
    await waitFor(() => expect(screen.queryByRole("button", { name: "Enough of this" })).toBeNull());
  });
});
