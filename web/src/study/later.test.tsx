// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

// What has waited once waits no more: each test begins with a page that was just opened.
beforeEach(() => {
  vi.resetModules();
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

async function opened(answers: Record<string, Promise<string>>) {
  const { useLater, useWatchForLater } = await import("./later");
  function Screen() {
    useWatchForLater();
    const first = useQuery({ queryKey: ["summary"], queryFn: () => answers.summary as Promise<string> });
    const later = useQuery({ queryKey: ["tags"], enabled: useLater(), queryFn: () => answers.tags as Promise<string> });
    return (
      <p>
        {first.data ?? "no summary"}, {later.fetchStatus === "fetching" ? "asking for tags" : (later.data ?? "no tags")}
      </p>
    );
  }
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Screen />
    </QueryClientProvider>,
  );
}
const pass = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

describe("what a screen can do without for a moment", () => {
  it("promises to ask for it once the screen has what it shows, and not before", async () => {
    let answer: (said: string) => void = () => undefined;
    await opened({ summary: new Promise((done) => (answer = done)), tags: Promise.resolve("two tags") });
    await pass(500);
    expect(screen.getByText("no summary, no tags")).toBeTruthy();
    answer("seven figures");
    await pass(100);
    expect(screen.getByText("seven figures, two tags")).toBeTruthy();
  });

  it("promises to ask in any case after a while, when the first answer is slow", async () => {
    await opened({ summary: new Promise(() => undefined), tags: Promise.resolve("two tags") });
    await pass(1400);
    expect(screen.getByText("no summary, no tags")).toBeTruthy();
    await pass(200);
    expect(screen.getByText("no summary, two tags")).toBeTruthy();
  });
});
