// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { sample } from "../../testing/sample";
import { DayStrip } from "./DayStrip";

afterEach(cleanup);

const WIDTH = 44 + 34 + 24 * 40;
const hourAt = (hour: number) => 44 + hour * 40;
const WEEK = sample("Timing", {
  chosen: [{ id: 1, name: "Orrery House", network: "commons", is_own: true }],
  hours: Array.from({ length: 168 }, (_, hour) => ({
    index: hour % 24 === 20 ? 1.5 : 1,
    low80: 0.8,
    high80: hour % 24 === 20 ? 2 : 1.2,
    nearby: hour % 24,
    certainty: hour % 24 === 20 ? "sure" : "open",
  })) as never,
  presence: Array.from({ length: 168 }, (_, hour) => (hour % 24) / 24),
  ticks: [
    { id: 1, hour: 24 + 9.5 },
    { id: 2, hour: 30.25 },
    { id: 3, hour: 5 },
  ] as never,
  free: [{ at: "2026-12-01T20:00:00Z", hour: 24 + 20 }] as never,
});

function strip(more: Partial<Parameters<typeof DayStrip>[0]> = {}) {
  const onHour = vi.fn();
  render(<DayStrip week={WEEK} day={1} width={WIDTH} reach={0.5} onHour={onHour} canChange {...more} />);
  const slider = screen.getByRole("slider");
  return { onHour, slider, said: () => slider.getAttribute("aria-valuetext") };
}

describe("a day's hours", () => {
  it("promises each hour in words: index with its band, how sure, how many posts, who is there", () => {
    const { slider, said } = strip();
    expect(said()).toBe("Tue");
    fireEvent.pointerMove(slider, { clientX: hourAt(20) + 2 });
    expect(said()).toBe("Tue 20:00 · 1.50 (0.80–2.00), sure, 20 posts nearby · presence 83 %");
    fireEvent.pointerMove(slider, { clientX: hourAt(9.75) + 1 });
    expect(said()).toMatch(/^Tue 09:45 · 1\.00/);
    fireEvent.pointerMove(slider, { clientX: 10 });
    expect(said()).toBe("Tue");
  });

  it("promises that the words lie within the strip, whichever hour they are about", () => {
    const { slider } = strip();
    for (const [hour, side] of [
      [3, "left"],
      [20, "right"],
    ] as const) {
      fireEvent.pointerMove(slider, { clientX: hourAt(hour) + 2 });
      const words = (screen.getByText(/posts nearby/) as HTMLElement).style;
      expect(words[side]).not.toBe("");
      expect(words[side === "left" ? "right" : "left"]).toBe("");
    }
  });

  it("promises half hours by arrow keys, from noon, within the day", () => {
    const { slider, said, onHour } = strip();
    fireEvent.keyDown(slider, { key: "Enter" });
    expect(onHour).not.toHaveBeenCalled();
    fireEvent.keyDown(slider, { key: "ArrowRight" });
    expect(said()).toMatch(/^Tue 12:30/);
    for (let i = 0; i < 60; i++) fireEvent.keyDown(slider, { key: "ArrowRight" });
    expect(said()).toMatch(/^Tue 23:45/);
    for (let i = 0; i < 60; i++) fireEvent.keyDown(slider, { key: "ArrowLeft" });
    expect(said()).toMatch(/^Tue 00:00/);
    fireEvent.keyDown(slider, { key: "Enter" });
    expect(onHour).toHaveBeenCalledWith(24);
    fireEvent.blur(slider);
    expect(said()).toBe("Tue");
  });

  it("promises a draft at the hour that is clicked, to a quarter", () => {
    const { slider, onHour } = strip();
    fireEvent.click(slider, { clientX: hourAt(20.25) + 1 });
    expect(onHour).toHaveBeenCalledWith(24 + 20.25);
    fireEvent.click(slider, { clientX: 5 });
    expect(onHour).toHaveBeenCalledTimes(1);
  });

  it("promises that those who may only look read the same and start nothing", () => {
    const { slider, onHour, said } = strip({ canChange: false });
    fireEvent.click(slider, { clientX: hourAt(20) });
    fireEvent.keyDown(slider, { key: "ArrowRight" });
    fireEvent.keyDown(slider, { key: "Enter" });
    expect(onHour).not.toHaveBeenCalled();
    expect(said()).toMatch(/^Tue 12:30/);
    expect(screen.queryByText(/click to draft/)).toBeNull();
  });

  it("promises posts and proposals of this day alone", () => {
    const { slider } = strip();
    expect(slider.querySelectorAll('line[stroke="var(--berry)"]')).toHaveLength(2);
    expect(slider.querySelectorAll('path[d$="h-15z"]')).toHaveLength(1);
    cleanup();
    const other = strip({ day: 4 });
    expect(other.slider.querySelectorAll('path[d$="h-15z"]')).toHaveLength(0);
  });

  it("promises who is there, group by group, where the audience lives by several clocks", () => {
    const groups = [
      { zone: "Europe/Lisbon", share: 0.7, countries: ["PT"], presence: Array.from({ length: 168 }, () => 0.6) },
      { zone: "America/Sao_Paulo", share: 0.3, countries: ["BR"], presence: Array.from({ length: 168 }, () => 0.2) },
    ];
    const { slider, said } = strip({ week: { ...WEEK, groups } });
    fireEvent.pointerMove(slider, { clientX: hourAt(20) + 2 });
    expect(said()).toContain("presence 83 % (Lisbon 60, Sao Paulo 20)");
  });

  it("promises planned posts as rings that are grabbed, and starts no draft on them", () => {
    const onGrab = vi.fn();
    const planned = [{ id: 4, profile_id: 1, at: "", hour: 24 + 10, title: "Sky", edition: 2, state: "draft" }];
    const { slider, onHour } = strip({ week: { ...WEEK, planned }, onGrab });
    const ring = slider.querySelector("[data-planned='4']") as Element;
    fireEvent.pointerDown(ring);
    fireEvent.click(ring);
    expect(onGrab).toHaveBeenCalledWith(expect.objectContaining({ id: 4, edition: 2 }), expect.anything());
    expect(onHour).not.toHaveBeenCalled();
  });

  it("promises to say where a dragged post would go, on the strip that it is over alone", () => {
    strip({ dragged: { id: 4, hour: 24 + 20.25 } });
    expect(screen.getByText(/^Tue 20:15/)).toBeTruthy();
    expect(screen.getByText(/let go to move it/)).toBeTruthy();
    cleanup();
    strip({ day: 2, dragged: { id: 4, hour: 24 + 20.25 } });
    expect(screen.queryByText(/let go to move it/)).toBeNull();
  });

  it("promises no curve where posts are too few, and who is there all the same", () => {
    const { slider, said } = strip({ week: { ...WEEK, hours: [] } });
    expect(slider.querySelector("path.mark")).toBeNull();
    fireEvent.pointerMove(slider, { clientX: hourAt(12) });
    expect(said()).toBe("Tue 12:00, presence 50 %");
    cleanup();
    const unknown = strip({ week: { ...WEEK, hours: [], presence: null } });
    fireEvent.pointerMove(unknown.slider, { clientX: hourAt(12) });
    expect(unknown.said()).toBe("Tue 12:00");
  });
});
