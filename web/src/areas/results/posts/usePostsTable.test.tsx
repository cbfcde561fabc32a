// @vitest-environment happy-dom
import { act, renderHook } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { usePostsTable } from "./usePostsTable";

const ROWS = Array.from({ length: 10 }, (_, i) => ({ id: 100 + i }));

function table() {
  const open = vi.fn();
  const tag = vi.fn();
  const { result } = renderHook(() => usePostsTable(ROWS, open, tag));
  const press = (key: string, shiftKey = false) => {
    let answer: number | null = null;
    act(() => {
      answer = result.current.onKey({ key, shiftKey, preventDefault: () => undefined });
    });
    return answer;
  };
  return { result, press, open, tag };
}

const picked = (t: ReturnType<typeof table>) => [...t.result.current.picked].sort();

describe("the table of posts by keyboard", () => {
  it("promises to walk within its ends and to say where to scroll", () => {
    const t = table();
    expect(t.press("k")).toBe(0);
    expect(t.press("j")).toBe(1);
    expect(t.press("PageDown")).toBe(9);
    expect(t.press("z")).toBeNull();
    expect(t.result.current.at).toBe(9);
  });
  it("promises that Enter opens the marked post", () => {
    const t = table();
    t.press("ArrowDown");
    t.press("Enter");
    expect(t.open).toHaveBeenCalledWith({ id: 101 });
  });
  it("promises that x picks and picks off, one by one", () => {
    const t = table();
    t.press("x");
    t.press("j");
    t.press("x");
    expect(picked(t)).toEqual([100, 101]);
    t.press("x");
    expect(picked(t)).toEqual([100]);
  });
  it("promises a range with Shift, walking or in one step", () => {
    const t = table();
    t.press("j");
    t.press("x");
    t.press("J", true);
    t.press("J", true);
    expect(picked(t)).toEqual([101, 102, 103]);
    act(() => t.result.current.toggle(6, true));
    expect(picked(t)).toEqual([101, 102, 103, 104, 105, 106]);
  });
  it("promises that t tags what is picked, and the marked post when nothing is", () => {
    const t = table();
    t.press("j");
    t.press("t");
    expect(t.tag).toHaveBeenCalledTimes(1);
    expect(picked(t)).toEqual([101]);
  });
  it("promises that Escape lets go of everything picked", () => {
    const t = table();
    t.press("x");
    t.press("Escape");
    expect(picked(t)).toEqual([]);
  });
});
