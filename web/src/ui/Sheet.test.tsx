// @vitest-environment happy-dom
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { afterEach, describe, expect, it } from "vitest";
import { Sheet } from "./Sheet";

function Page() {
  const [isOpen, setOpen] = useState(false);
  const [drawn, setDrawn] = useState(0);
  return (
    <>
      <button type="button">another</button>
      <button key={drawn} type="button" onClick={() => setOpen(true)}>
        Change it
      </button>
      <Sheet isOpen={isOpen} onClose={() => setOpen(false)} title="Change">
        {/* biome-ignore lint/a11y/noAutofocus: what the sheet is for */}
        <input autoFocus aria-label="name" />
        <button type="button" onClick={() => setDrawn(drawn + 1)}>
          draw anew
        </button>
      </Sheet>
    </>
  );
}

describe("a sheet", () => {
  afterEach(cleanup);

  it.each([false, true])("promises the focus back where it came from, drawn anew or not (%s)", async (isAnew) => {
    render(<Page />);
    const user = userEvent.setup();
    await user.click(screen.getByRole("button", { name: "Change it" }));
    await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText("name")));
    if (isAnew) await user.click(screen.getByRole("button", { name: "draw anew" }));
    await user.keyboard("{Escape}");
    await waitFor(() => expect(document.activeElement).toBe(screen.getByRole("button", { name: "Change it" })));
  });
});
