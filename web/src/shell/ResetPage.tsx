import { useForm } from "react-hook-form";
import { Link, useLocation } from "react-router";
import { ProblemError } from "../api/client";
import { useAskForReset, useResetPassword } from "../study/queries";
import { Button } from "../ui/Button";
import { Entry, Form } from "../ui/Form";
import { PasswordField } from "../ui/PasswordField";
import { Notice } from "../ui/States";
import { Outside } from "./Outside";

/** A forgotten password: asking for a letter, and setting a new one with the key that stands in it. */
export function ResetPage() {
  const key = useLocation().hash.slice(1);
  return key ? <NewPassword key={key} keyOf={key} /> : <AskForLetter />;
}

function AskForLetter() {
  // What was typed where one signs in is not to be typed again.
  const typed = (useLocation().state as { email?: string } | null)?.email ?? "";
  const form = useForm({ defaultValues: { email: typed } });
  const ask = useAskForReset();
  if (ask.isSuccess)
    return (
      <Outside title="Look into your mail">
        <Notice kind="good">
          If somebody signs in with {form.getValues("email")}, a letter is on its way there. The address in it sets a
          new password, once, within an hour.
        </Notice>
        <p className="text-muted">
          Nothing came? Look among unwanted mail, and whether it was this address. Another letter can be asked for after
          five minutes.
        </p>
        <Link to="/" className="under self-start hover:text-berry">
          To signing in
        </Link>
      </Outside>
    );
  return (
    <Outside
      title="A new password"
      says="We write to the address that you sign in with; what stands in the letter sets a new one."
    >
      <Form form={form} error={ask.error} onSubmit={({ email }) => ask.mutate(email)}>
        <Entry form={form} name="email" label="E-mail address">
          {(field) => <input {...field} type="email" autoComplete="username" maxLength={254} />}
        </Entry>
        <div className="flex items-center gap-4">
          <Button kind="main" type="submit" isBusy={ask.isPending} disabled={form.watch("email").trim() === ""}>
            Write to me
          </Button>
          <Link to="/" className="under hover:text-berry">
            To signing in
          </Link>
        </div>
      </Form>
    </Outside>
  );
}

function NewPassword({ keyOf }: { keyOf: string }) {
  const form = useForm({ defaultValues: { password: "" } });
  const reset = useResetPassword();
  const problem = reset.error instanceof ProblemError ? reset.error : null;
  if (reset.isSuccess)
    return (
      <Outside title="Your password is set">
        <Notice kind="good">
          Sign in as {reset.data.email} with it. Wherever you were signed in, you no longer are.
        </Notice>
        <a href="/" className="under self-start hover:text-berry">
          Sign in
        </a>
      </Outside>
    );
  const isOver = problem?.kind === "key_over";
  return (
    <Outside title="A new password">
      {isOver ? (
        <>
          <Notice kind="wrong">{problem.message}</Notice>
          <a href="/reset" className="under self-start hover:text-berry">
            Ask for another letter
          </a>
        </>
      ) : (
        <Form form={form} error={reset.error} onSubmit={({ password }) => reset.mutate({ key: keyOf, password })}>
          <PasswordField form={form} name="password" label="New password" isNew />
          <Button kind="main" type="submit" isBusy={reset.isPending} className="self-start">
            Set it
          </Button>
        </Form>
      )}
    </Outside>
  );
}
