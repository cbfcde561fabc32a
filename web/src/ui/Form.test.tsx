// @vitest-environment happy-dom
/** Promise: what the server says of a form stands where it belongs, with the focus there, and keeps nobody from trying again. */

import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useForm } from "react-hook-form";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ProblemError } from "../api/client";
import { CheckEntry, ChecksEntry, Entry, Form } from "./Form";

afterEach(cleanup);

const FIRST = { name: "", days: 3, isOn: false, on: ["b"] as string[] };
type Values = typeof FIRST;

function Asked({ error = null, onSubmit }: { error?: Error | null; onSubmit: (values: Values) => void }) {
  const form = useForm<Values>({ defaultValues: FIRST });
  return (
    <Form form={form} error={error} onSubmit={onSubmit} aria-label="Asked">
      <Entry form={form} name="days" label="Days">
        {(field) => <input {...field} onChange={(e) => field.onChange(Number(e.target.value))} />}
      </Entry>
      <Entry form={form} name="name" label="Name" help="As on the door">
        {(field) => <input {...field} />}
      </Entry>
      <CheckEntry form={form} name="isOn">
        It is on
      </CheckEntry>
      <ChecksEntry
        form={form}
        name="on"
        options={["a", "b", "c"].map((one) => ({ value: one, label: `Row ${one}` }))}
      />
      <button type="submit">Send</button>
    </Form>
  );
}

const told = (fields: Record<string, string>, message = "It cannot be so.") =>
  new ProblemError(400, "invalid", message, fields);

describe("a form", () => {
  it("promises that what is typed, ticked and counted is what is sent", async () => {
    const sent = vi.fn();
    render(<Asked onSubmit={sent} />);
    await userEvent.type(screen.getByLabelText("Name"), "Night");
    await userEvent.type(screen.getByLabelText("Days"), "0");
    await userEvent.click(screen.getByLabelText("It is on"));
    await userEvent.click(screen.getByLabelText("Row a"));
    await userEvent.click(screen.getByLabelText("Row b"));
    await userEvent.click(screen.getByText("Send"));
    expect(sent.mock.lastCall?.[0]).toEqual({ name: "Night", days: 30, isOn: true, on: ["a"] });
  });

  it("promises the focus on the field that is wrong, and that typing there takes what was said back", async () => {
    const { rerender } = render(<Asked onSubmit={() => undefined} />);
    rerender(<Asked onSubmit={() => undefined} error={told({ name: "This name is taken." })} />);
    const field = screen.getByLabelText("Name");
    await waitFor(() => expect(document.activeElement).toBe(field));
    expect(field.getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByRole("alert").textContent).toBe("This name is taken.");
    expect(document.getElementById(field.getAttribute("aria-describedby") ?? "")?.textContent).toBe(
      "This name is taken.",
    );
  });

  it("promises that a form can be sent again as it was said to be wrong", async () => {
    const sent = vi.fn();
    render(<Asked onSubmit={sent} error={told({ name: "No.", elsewhere: "Nor there." })} />);
    await userEvent.click(screen.getByText("Send"));
    await userEvent.click(screen.getByText("Send"));
    expect(sent).toHaveBeenCalledTimes(2);
  });

  it("promises that what belongs to no field that is seen is said on top, and nothing twice", () => {
    const { rerender } = render(
      <Asked onSubmit={() => undefined} error={told({ days: "Too many.", zone: "No zone." })} />,
    );
    expect(screen.getAllByText("Too many.")).toHaveLength(1);
    expect(screen.getByText("No zone.")).toBeTruthy();
    expect(screen.queryByText("It cannot be so.")).toBeNull();
    rerender(<Asked onSubmit={() => undefined} error={new Error("Dakika cannot be reached.")} />);
    expect(screen.getByText("Dakika cannot be reached.")).toBeTruthy();
  });

  it("promises that a form within another's part of the page sends itself alone", async () => {
    const [outer, inner] = [vi.fn((event) => event.preventDefault()), vi.fn()];
    render(
      <div onSubmit={outer}>
        <Asked onSubmit={inner} />
      </div>,
    );
    await userEvent.click(screen.getByText("Send"));
    expect(inner).toHaveBeenCalledTimes(1);
    expect(outer).not.toHaveBeenCalled();
  });
});
