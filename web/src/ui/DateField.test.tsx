// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { afterEach, describe, expect, it } from "vitest";
import { DateField } from "./DateField";
import { TimeField } from "./TimeField";

afterEach(cleanup);
let told: string[] = [];
function Day({ first = "2026-11-27" }: { first?: string }) {
  const [day, setDay] = useState(first);
  const keep = (next: string) => {
    told.push(next);
    setDay(next);
  };
  return <DateField aria-label="Day" value={day} today="2026-11-28" onChange={keep} />;
}
function Time() {
  const [time, setTime] = useState("23:50");
  return <TimeField aria-label="Time" value={time} onChange={setTime} />;
}
const field = (name: string) => screen.getByLabelText(name) as HTMLInputElement;

describe("own fields for days and times", () => {
  it("promises a day typed in any usual way, and that half of one is none yet", async () => {
    told = [];
    const user = userEvent.setup();
    render(<Day />);
    expect(field("Day").value).toBe("27 Nov 2026");
    await user.clear(field("Day"));
    await user.type(field("Day"), "3.12");
    expect(told).toEqual([""]);
    await user.tab();
    expect(told.at(-1)).toBe("2026-12-03");
    expect(field("Day").value).toBe("3 Dec 2026");
  });

  it("promises that what is no day stays as it was typed, and is said", async () => {
    const user = userEvent.setup();
    render(<Day />);
    await user.clear(field("Day"));
    await user.type(field("Day"), "31 Nov 2026");
    await user.tab();
    expect(field("Day").value).toBe("31 Nov 2026");
    expect(screen.getByRole("alert").textContent).toContain("There is no such day");
  });

  it("promises a month to pick from, Monday first", async () => {
    told = [];
    const user = userEvent.setup();
    render(<Day />);
    await user.click(screen.getByRole("button", { name: "Open the month" }));
    await user.click(await screen.findByRole("button", { name: /November 30/ }));
    expect(told).toEqual(["2026-11-30"]);
  });

  it("promises a 24-hour clock that turns over at midnight", async () => {
    const user = userEvent.setup();
    render(<Time />);
    fireEvent.keyDown(field("Time"), { key: "ArrowUp" });
    expect(field("Time").value).toBe("00:05");
    await user.clear(field("Time"));
    await user.type(field("Time"), "25:00");
    await user.tab();
    expect([field("Time").value, field("Time").getAttribute("aria-invalid")]).toEqual(["25:00", "true"]);
    await user.clear(field("Time"));
    await user.type(field("Time"), "7");
    await user.tab();
    expect(field("Time").value).toBe("07:00");
  });
});
