import { QueryClient } from "@tanstack/react-query";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { keyOf } from "../api/keys";
import { moving, paced, setLive } from "../api/live";
import { gathering, type Heard, streaming } from "./listening";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  setLive(false);
});

describe("what is heard", () => {
  const asked = (client: QueryClient) =>
    client
      .getQueryCache()
      .findAll()
      .filter((query) => query.state.isInvalidated)
      .map((query) => String(query.queryKey[0]));
  const holding = (...names: ("links" | "plan" | "summary" | "tags")[]) => {
    const client = new QueryClient();
    for (const name of names) client.setQueryData(keyOf(name, "house"), {});
    client.setQueryData(keyOf("links", "other"), {});
    return client;
  };

  it("promises one round of questions for the changes of a moment, and none beyond what is made of them", () => {
    const client = holding("links", "plan", "summary", "tags");
    const ask = vi.spyOn(client, "invalidateQueries");
    const hear = gathering(client, () => false);
    hear({ kind: "changed", brand: "house", things: ["links"] });
    hear({ kind: "changed", brand: "house", things: ["plan", "links"] });
    vi.advanceTimersByTime(5_000);
    expect(ask).toHaveBeenCalledTimes(1);
    // Clicks are metrics of the summary too.
    expect(asked(client)).toEqual(["links", "plan", "summary"]);
  });

  it("promises that a tab nobody looks at asks nothing until somebody does", () => {
    const client = holding("links");
    const ask = vi.spyOn(client, "invalidateQueries");
    gathering(client, () => true)({ kind: "changed", brand: "house", things: ["links"] });
    vi.advanceTimersByTime(5_000);
    expect(ask.mock.calls[0]?.[0]).toMatchObject({ refetchType: "none" });
  });

  it("promises slow asking while changes are told, and the usual one when they are not", () => {
    const hear = gathering(new QueryClient());
    expect(paced(2_000)).toBe(2_000);
    hear({ kind: "live", on: true });
    expect(paced(2_000)).toBe(120_000);
    // What one waits for is asked for all the same: its end may be told a moment too early.
    expect(moving(700)).toBe(3_000);
    hear({ kind: "live", on: false });
    expect(paced(2_000)).toBe(2_000);
  });
});

describe("the stream", () => {
  const run = (opens: (boolean | "live")[], addresses: (string | null)[] = []) => {
    const stop = new AbortController();
    const heard: Heard[] = [];
    let tickets = 0;
    const done = streaming(
      (one) => heard.push(one),
      stop.signal,
      async (_, tell) => {
        const next = opens.shift();
        if (next === undefined) stop.abort();
        if (next === "live") tell({ kind: "live", on: true });
        return next !== false;
      },
      async () => {
        const address = addresses.length > 0 ? addresses.shift() : "http://events";
        tickets += 1;
        if (address === null || address === undefined) throw new Error("away");
        return { address, ticket: String(tickets) };
      },
    );
    return { done, heard, stop, tickets: () => tickets };
  };

  it("promises a new ticket for each stream, and that what was missed between two is asked for", async () => {
    const story = run(["live", "live"]);
    await story.done;
    expect(story.tickets()).toBe(3);
    expect(story.heard.map((one) => one.kind)).toEqual(["live", "live", "anew"]);
  });

  it("promises to say that it is away, and to try ever less often", async () => {
    const story = run([false, false, "live"]);
    await vi.advanceTimersByTimeAsync(1_900);
    expect(story.tickets()).toBe(1);
    expect(story.heard).toEqual([{ kind: "live", on: false }]);
    await vi.advanceTimersByTimeAsync(200);
    expect(story.tickets()).toBe(2);
    await vi.advanceTimersByTimeAsync(3_800);
    expect(story.tickets()).toBe(2);
    await vi.advanceTimersByTimeAsync(400);
    await story.done;
    expect(story.heard.at(-1)).toEqual({ kind: "live", on: true });
  });

  it("promises to leave it where nothing is told at all, and to outlive a server that is away", async () => {
    const none = run([], [""]);
    await none.done;
    expect(none.heard).toEqual([]);
    const away = run(["live"], [null, "http://events"]);
    await vi.advanceTimersByTimeAsync(2_100);
    expect(away.heard.some((one) => one.kind === "live" && one.on)).toBe(true);
    away.stop.abort();
  });
});
