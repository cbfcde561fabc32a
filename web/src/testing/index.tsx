/** The whole front end at an address, with a server in the test's hands. */

import { cleanup, configure, render, screen } from "@testing-library/react";
import userEvent, { type UserEvent } from "@testing-library/user-event";
import { afterEach, expect } from "vitest";
import { App } from "../app/App";
import { noteSignedIn } from "../study/ended";
import { type Answers, BRAND, type FakeServer, shell, stand } from "./server";

export { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
export { sample } from "./sample";
export { type Answers, type Asked, BRAND, Held, NOW, Refusal } from "./server";

// Whether each element is hidden takes most of the time of finding one by its role.
configure({ defaultHidden: true });

type Opened = { server: FakeServer; user: UserEvent; address: () => string };
let server: FakeServer | undefined;

/** Open a screen of the brand, such as "results/posts?sort=-index", as an editor or as one who may only look. */
export function screenAt(path: string, answers: Answers = {}, role: "editor" | "viewer" = "editor"): Opened {
  window.history.replaceState(null, "", `/${BRAND}/${path}`);
  server = stand({ ...shell(role), ...answers });
  render(<App />);
  return {
    server,
    user: userEvent.setup({ pointerEventsCheck: 0, delay: null }),
    address: () => window.location.pathname + window.location.search,
  };
}

/** The row of a table, or the item of a list, that holds a text. */
export function rowOf(text: string | RegExp): HTMLElement {
  const rows = screen.getAllByText(text).map((found) => found.closest("tr, li, [role=row]"));
  const row = rows.find((found) => found instanceof HTMLElement);
  if (!row) throw new Error(`${text} stands in no row.`);
  return row as HTMLElement;
}

/** What a row says, cell by cell. */
export const cells = (row: HTMLElement): string[] =>
  [...row.querySelectorAll("td, th, [role=cell], [role=gridcell]")].map((cell) => cell.textContent?.trim() ?? "");

afterEach(() => {
  const unknown = server?.unknown ?? [];
  server = undefined;
  cleanup();
  noteSignedIn();
  localStorage.clear();
  sessionStorage.clear();
  expect(unknown, "what the screen asked for and the test did not tell").toEqual([]);
});
