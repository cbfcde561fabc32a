// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { type Answers, Refusal, sample, screen, screenAt } from "../testing";

/** A page that stands outside of any brand, opened with a key behind the #. */
const outside = (path: string, key: string, answers: Answers) =>
  screenAt(`../${path}#${key}`, { "GET //session": new Refusal(401, "Sign in."), ...answers });
const SEEN = { brand: "Orrery House", role: "author", email: "toma@ninthbell.example", by: "Mira", has_account: false };
const ME = sample("Session", { name: "Toma", email: "toma@ninthbell.example" });

describe("an invitation", () => {
  it("promises what it asks one to, and what is wrong beside its field", async () => {
    const { user } = outside("join", "a-key", {
      "POST //invitations/seen": SEEN,
      "POST //invitations/taken": new Refusal(400, "Something is wrong.", { password: ["This one is guessed early."] }),
    });
    expect(await screen.findByRole("heading", { name: "Work on Orrery House" })).toBeTruthy();
    await user.type(screen.getByLabelText("Your name"), "Toma");
    await user.click(screen.getByRole("button", { name: "Come in" }));
    expect(await screen.findByText("This one is guessed early.")).toBeTruthy();
    expect(screen.getByDisplayValue("Toma")).toBeTruthy();
  });

  it("promises to let in who is signed in as who they are", async () => {
    const { server, user } = outside("join", "a-key", {
      "GET //session": ME,
      "POST //invitations/seen": SEEN,
      "POST //invitations/taken": new Refusal(400, "You work for Orrery House already, as viewer."),
    });
    await user.click(await screen.findByRole("button", { name: "Come in as Toma" }));
    expect(await screen.findByText("You work for Orrery House already, as viewer.")).toBeTruthy();
    expect(server.sent("POST //invitations/taken")[0]?.body).toEqual({ key: "a-key", name: "", password: "" });
  });

  it("promises to have somebody sign in whose address is known", async () => {
    outside("join", "a-key", { "POST //invitations/seen": { ...SEEN, has_account: true } });
    expect(await screen.findByText(/Somebody signs in with toma@ninthbell.example already/)).toBeTruthy();
    expect(screen.getByDisplayValue("toma@ninthbell.example")).toBeTruthy();
  });

  it("promises to say that it is over, or cut off", async () => {
    outside("join", "old", { "POST //invitations/seen": new Refusal(404, "This invitation is over.") });
    expect(await screen.findByText("This invitation is over.")).toBeTruthy();
  });
});

describe("a forgotten password", () => {
  it("promises not to say whether somebody has the address", async () => {
    const { user } = outside("reset", "", { "POST //password-reset": undefined });
    await user.type(await screen.findByLabelText("E-mail address"), "nobody@ninthbell.example");
    await user.click(screen.getByRole("button", { name: "Write to me" }));
    expect(await screen.findByText(/If somebody signs in with nobody@ninthbell.example/)).toBeTruthy();
  });

  it("promises a way on where the letter is too old", async () => {
    const { user } = outside("reset", "old", {
      "POST //password-reset/new": new Refusal(400, "This address sets no password any more.", {}, "key_over"),
    });
    await user.type(await screen.findByLabelText("New password"), "kettle bridge orchard nine");
    await user.click(screen.getByRole("button", { name: "Set it" }));
    expect(await screen.findByText("This address sets no password any more.")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Ask for another letter" })).toBeTruthy();
  });
});

describe("another address", () => {
  it("promises that it is taken by a click, not by being opened", async () => {
    const { server, user } = outside("address", "a-key", {
      "POST //account/address/taken": { email: "new@ninthbell.example" },
    });
    const take = await screen.findByRole("button", { name: "Sign in with it from now on" });
    expect(server.sent("POST //account/address/taken")).toHaveLength(0);
    await user.click(take);
    expect(await screen.findByText(/You sign in with new@ninthbell.example/)).toBeTruthy();
  });
});
