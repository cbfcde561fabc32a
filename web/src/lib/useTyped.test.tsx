// @vitest-environment happy-dom
/** Promise: what is typed into a form outlives a reload of its tab, until it is taken or is what it was. */

import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it } from "vitest";
import { useTypedForm } from "./useTyped";

afterEach(() => {
  cleanup();
  sessionStorage.clear();
});

const NAME = "dakika.test";
const kept = () => sessionStorage.getItem(NAME);

function Typing({ first = "as it was" }: { first?: string }) {
  const { form, begin } = useTypedForm(NAME, { title: first, isOn: true });
  return (
    <>
      <input aria-label="Title" {...form.register("title")} />
      <button type="button" onClick={() => begin(form.getValues())}>
        Take it
      </button>
    </>
  );
}

const title = () => screen.getByLabelText<HTMLInputElement>("Title");

describe("a form whose values are kept", () => {
  it("promises the same words when the page is opened again", async () => {
    render(<Typing />);
    await userEvent.type(title(), " and more");
    cleanup();
    render(<Typing />);
    expect(title().value).toBe("as it was and more");
  });

  it("promises to keep nothing that is as it was, nor what was taken", async () => {
    render(<Typing />);
    expect(kept()).toBeNull();
    await userEvent.type(title(), "!");
    expect(kept()).toContain("as it was!");
    await userEvent.type(title(), "{Backspace}");
    expect(kept()).toBeNull();
    await userEvent.type(title(), "?");
    await userEvent.click(screen.getByText("Take it"));
    expect(kept()).toBeNull();
    expect(title().value).toBe("as it was?");
  });

  it("promises that what was kept and cannot be read is passed over", () => {
    for (const broken of ["{", "null", "[1]", '"words"']) {
      sessionStorage.setItem(NAME, broken);
      render(<Typing />);
      expect(title().value).toBe("as it was");
      cleanup();
    }
  });
});
