import { describe, expect, it } from "vitest";
import { sample } from "../../testing/sample";
import { lengthWords, outcomeWords, rhythmsOf } from "./trials";

const trial = (verdict: string, more: object = {}, state = "running") =>
  sample("Trial", {
    first: [2160],
    second: [2640],
    pairs: 8,
    error: 0.05,
    state: state as never,
    outcome: { pairs: 4, ratio: 1.21, low: 1.04, high: 1.4, spent: 0.01, verdict: verdict as never, ...more },
  });

describe("what a trial says", () => {
  it("promises the length before it begins, and a plain no where it would take too long", () => {
    const length = { pairs: 10, power: 0.81, usual: 7, most: 26 };
    expect(lengthWords(length, 1.25)).toBe(
      "20 weeks at most, to find a difference of 25%: 81% of the time it is found. When there is one, it usually shows after 14.",
    );
    expect(lengthWords({ ...length, pairs: null, power: 0.3 }, 1.1)).toContain("Even 52 weeks are too few");
  });
  it("promises the ratio with an interval that holds however often one looks", () => {
    expect(outcomeWords(trial("second", {}, "over"))).toBe(
      "Tue 20:00 did 1.21 times as well (1.04 to 1.40, 95%, however often one looks)",
    );
  });
  it("promises that nothing is claimed while it runs, nor of what was stopped or shows no difference", () => {
    expect(outcomeWords(trial("running"))).toMatch(/^Not settled yet, 4 of 8 pairs of weeks are read/);
    expect(outcomeWords(trial("running", {}, "stopped"))).toMatch(/^Stopped early, nothing is settled/);
    expect(outcomeWords(trial("no_difference", {}, "over"))).toMatch(/^No difference can be shown/);
    expect(outcomeWords(trial("no_difference", { ratio: null }, "over"))).toBe("Nothing was published at its times");
    expect(outcomeWords(trial("running", { ratio: null, pairs: 0 }))).toBe("0 of 8 pairs of weeks are read");
    expect(outcomeWords(trial("running", { low: null, high: null }))).not.toContain("(");
  });
  it("promises a trial of rhythms only where they differ by two hours somewhere, over the end of the week too", () => {
    const slots = (...minutes: number[]) => minutes.map((minute) => ({ minute }));
    const kept = [1, 2, 3].map((profile) => ({ profile, slots: slots(30, 2160) }));
    const proposed = [
      { profile: 1, slots: slots(30, 2640) },
      { profile: 2, slots: slots(10050, 2200) },
      { profile: 3, slots: slots(5000) },
    ];
    expect(rhythmsOf(kept, proposed)).toEqual([{ profile: 1, first: [30, 2160], second: [30, 2640] }]);
    const told = sample("Trial", { ...trial("second", {}, "over"), of_rhythms: true, first: [], second: [] });
    expect(outcomeWords(told)).toMatch(/^The second rhythm did 1.21 times as well/);
  });
});
