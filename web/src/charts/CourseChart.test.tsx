// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { BrowserRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { addDays } from "../lib/days";
import { CourseChart } from "./CourseChart";
import { GainLossChart } from "./GainLossChart";
import { TrafficChart } from "./TrafficChart";

afterEach(cleanup);
const DAYS = Array.from({ length: 7 }, (_, i) => addDays("2026-11-02", i)); // Monday to Sunday
const NOW = [10, 20, null, 40, 50, 0, 70];
const BEFORE = [5, 5, 5, 5, 5, 5, 5];

const chart = (more: Partial<React.ComponentProps<typeof CourseChart>> = {}) => {
  render(
    <CourseChart
      label="Reach"
      unit="count"
      days={DAYS}
      now={NOW}
      before={BEFORE}
      daysBefore={DAYS.map((day) => addDays(day, -7))}
      {...more}
    />,
  );
  const drawn = screen.getByRole("img", { name: "Reach by day" });
  const press = (key: string) => fireEvent.keyDown(drawn, { key });
  const said = () => document.getElementById(drawn.getAttribute("aria-describedby") ?? "")?.textContent;
  return { drawn, press, said };
};

describe("a course by day", () => {
  it("promises to be read by arrow keys, from either end and not beyond", () => {
    const { press, said } = chart();
    press("ArrowRight");
    expect(said()).toBe("Mon 2 Nov: 10; 5 on 26 Oct");
    press("ArrowLeft");
    expect(said()).toContain("Mon 2 Nov");
    press("End");
    expect(said()).toContain("Sun 8 Nov: 70");
    press("ArrowRight");
    expect(said()).toContain("Sun 8 Nov");
    press("Home");
    expect(said()).toContain("Mon 2 Nov");
  });

  it("promises that what is missing is read as missing and drawn as a gap, and zero as zero", () => {
    const { drawn, press, said } = chart();
    for (let i = 0; i < 3; i++) press("ArrowRight");
    expect(said()).toMatch(/^Wed 4 Nov: –/);
    for (let i = 0; i < 3; i++) press("ArrowRight");
    expect(said()).toMatch(/^Sat 7 Nov: 0;/);
    const lines = [...drawn.querySelectorAll("path")].map((path) => path.getAttribute("d") ?? "");
    // A line with a gap begins twice.
    expect(lines.some((d) => (d.match(/M/g) ?? []).length >= 2)).toBe(true);
    expect(drawn.innerHTML).not.toContain("NaN");
  });

  it("promises that days that stand out are said aloud, with what a key shows", () => {
    const { press, said } = chart({
      spikes: [
        { day: "2026-11-03", z: 4.2 },
        { day: "2026-11-07", z: -5 },
      ],
    });
    press("ArrowRight");
    press("ArrowRight");
    expect(said()).toContain("stands out, Enter shows why");
    for (let i = 0; i < 4; i++) press("ArrowRight");
    expect(said()).toContain("falls away, Enter shows why");
  });

  it("promises that Enter opens the day that is read, and nothing before one is", () => {
    const onDay = vi.fn();
    const { press } = chart({ onDay });
    press("Enter");
    expect(onDay).not.toHaveBeenCalled();
    press("ArrowRight");
    press("Enter");
    expect(onDay).toHaveBeenCalledExactlyOnceWith("2026-11-02");
  });

  it("promises that posts of a day are counted in words", () => {
    const { press, said } = chart({ posts: [1, 3, null, null, null, null, null] });
    press("ArrowRight");
    expect(said()).toMatch(/; 1 post$/);
    press("ArrowRight");
    expect(said()).toMatch(/; 3 posts$/);
  });

  it("promises bars as another form of the same", () => {
    const { drawn } = chart({ form: "bar" });
    expect(drawn.querySelectorAll("rect").length).toBeGreaterThanOrEqual(NOW.filter((v) => v !== null && v > 0).length);
    expect(drawn.innerHTML).not.toContain("NaN");
  });

  it("promises a chart of nothing but gaps, of one day, and of zeros", () => {
    chart({ now: DAYS.map(() => null), before: [], daysBefore: [] });
    cleanup();
    chart({ days: ["2026-11-02"], now: [3], before: [2], daysBefore: ["2026-11-01"] });
    cleanup();
    const { drawn } = chart({ now: DAYS.map(() => 0), before: DAYS.map(() => 0) });
    expect(drawn.innerHTML).not.toMatch(/NaN|Infinity/);
  });
});

describe("followers gained and lost", () => {
  it("promises gains above the line and losses below it, read together", () => {
    render(
      <GainLossChart
        days={DAYS}
        gained={[5, 1, 0, 2, 3, 4, 5]}
        lost={[1, 0, 9, 1, 1, 1, 1]}
        net={[4, 1, -9, 1, 2, 3, 4]}
        losses={["2026-11-04"]}
      />,
    );
    const drawn = screen.getByRole("img");
    for (let i = 0; i < 3; i++) fireEvent.keyDown(drawn, { key: "ArrowRight" });
    const said = document.getElementById(drawn.getAttribute("aria-describedby") ?? "")?.textContent ?? "";
    expect(said).toContain("Wed 4 Nov");
    expect(said).toMatch(/9/);
    expect(drawn.innerHTML).not.toContain("NaN");
  });

  it("promises that a part that is hidden is not read either", () => {
    render(<GainLossChart days={DAYS} gained={[5, 1, 0, 2, 3, 4, 5]} lost={null} net={null} />);
    const drawn = screen.getByRole("img");
    fireEvent.keyDown(drawn, { key: "ArrowRight" });
    const said = document.getElementById(drawn.getAttribute("aria-describedby") ?? "")?.textContent ?? "";
    expect(said).toContain("5");
    expect(said).not.toMatch(/lost|net/);
  });
});

describe("traffic with posts laid over it", () => {
  const at = () => window.location.pathname;
  const chart = (onDay?: (day: string) => void) => {
    window.history.replaceState(null, "", "/here");
    render(
      <BrowserRouter>
        <TrafficChart
          days={DAYS}
          clicks={[1, 2, 3, 4, 5, 6, 7]}
          visits={[0, 1, 1, 1, 1, 1, 1]}
          spikes={[{ day: "2026-11-08", z: 5 }]}
          posts={[
            { id: 8, day: "2026-11-03", size: 2, clicks: 1, text: "Small" },
            { id: 9, day: "2026-11-03", size: 4, clicks: 3, text: "Tonight" },
          ]}
          hrefOf={(id) => `/p/${id}`}
          onDay={onDay}
        />
      </BrowserRouter>,
    );
    const drawn = screen.getByRole("img", { name: "Clicks by day, with 2 posts" });
    const said = () => document.getElementById(drawn.getAttribute("aria-describedby") ?? "")?.textContent;
    return { press: (key: string) => fireEvent.keyDown(drawn, { key }), said };
  };

  it("promises clicks, visits and posts of a day in words, and that it stands out", () => {
    const { press, said } = chart();
    press("End");
    expect(said()).toBe("Sun 8 Nov: 7 clicks, 1 visit; stands out; 0 posts");
    press("Home");
    press("ArrowRight");
    expect(said()).toBe("Tue 3 Nov: 2 clicks, 1 visit; 2 posts, 4 clicks as the networks report");
  });

  it("promises that Enter opens what made the day, else its largest post", () => {
    const onDay = vi.fn();
    const opened = chart(onDay);
    opened.press("Home");
    opened.press("Enter");
    expect(onDay).toHaveBeenCalledWith("2026-11-02");
    cleanup();
    const { press } = chart();
    press("Home");
    press("ArrowRight");
    press("Enter");
    expect(at()).toBe("/p/9");
  });
});
