// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Boundary } from "./Boundary";

let message = "";
function Page() {
  if (message) throw new Error(message);
  return <p>The page</p>;
}
const page = (place: string) => (
  <Boundary place={place}>
    <Page />
  </Boundary>
);

describe("a page that breaks", () => {
  afterEach(() => {
    cleanup();
    vi.restoreAllMocks();
  });

  it("promises a way on: once more, or elsewhere", () => {
    vi.spyOn(console, "error").mockImplementation(() => undefined);
    message = "x is undefined";
    const { rerender } = render(page("/a"));
    expect(screen.getByRole("alert").textContent).toContain("a mistake of ours");
    rerender(page("/a"));
    expect(screen.getByText("x is undefined")).toBeTruthy();
    message = "";
    rerender(page("/b"));
    expect(screen.getByText("The page")).toBeTruthy();
    message = "again";
    rerender(page("/b"));
    message = "";
    fireEvent.click(screen.getByRole("button", { name: "Try once more" }));
    expect(screen.getByText("The page")).toBeTruthy();
  });

  it.each([
    "Failed to fetch dynamically imported module: /assets/PostsPage-1.js",
    "error loading dynamically imported module",
    "Importing a module script failed.",
    "Unable to preload CSS for /assets/x.css",
  ])("promises that a part which is gone after an update asks for a reload: %s", (said) => {
    vi.spyOn(console, "error").mockImplementation(() => undefined);
    message = said;
    render(page("/a"));
    expect(screen.getByRole("alert").textContent).toContain("Dakika was updated meanwhile");
    expect(screen.getByRole("button", { name: "Load the page again" })).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Try once more" })).toBeNull();
  });
});
