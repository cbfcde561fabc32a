import { useState } from "react";
import { Link, useLocation } from "react-router";
import { ProblemError } from "../api/client";
import { useAskForReset, useResetPassword } from "../study/queries";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { PasswordField } from "../ui/PasswordField";
import { Notice } from "../ui/States";
import { Outside } from "./Outside";

/** A forgotten password: asking for a letter, and setting a new one with the key that stands in it. */
export function ResetPage() {
  const key = useLocation().hash.slice(1);
  return key ? <NewPassword key={key} keyOf={key} /> : <AskForLetter />;
}

function AskForLetter() {
  const [email, setEmail] = useState("");
  const ask = useAskForReset();
  const problem = ask.error instanceof ProblemError ? ask.error : null;
  if (ask.isSuccess)
    return (
      <Outside title="Look into your mail">
        <Notice kind="good">
          If somebody signs in with {email}, a letter is on its way there. The address in it sets a new password, once,
          within an hour.
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
      {problem && Object.keys(problem.fields).length === 0 && <Notice kind="wrong">{problem.message}</Notice>}
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          ask.mutate(email);
        }}
      >
        <Field label="E-mail address" error={problem?.fields.email}>
          {(props) => (
            <input
              {...props}
              type="email"
              autoComplete="username"
              maxLength={254}
              value={email}
              onChange={(e) => setEmail(e.target.value)}
            />
          )}
        </Field>
        <div className="flex items-center gap-4">
          <Button kind="main" type="submit" isBusy={ask.isPending} disabled={email.trim() === ""}>
            Write to me
          </Button>
          <Link to="/" className="under hover:text-berry">
            To signing in
          </Link>
        </div>
      </form>
    </Outside>
  );
}

function NewPassword({ keyOf }: { keyOf: string }) {
  const [password, setPassword] = useState("");
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
      {problem && Object.keys(problem.fields).length === 0 && <Notice kind="wrong">{problem.message}</Notice>}
      {isOver ? (
        <a href="/reset" className="under self-start hover:text-berry">
          Ask for another letter
        </a>
      ) : (
        <form
          className="flex flex-col gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            reset.mutate({ key: keyOf, password });
          }}
        >
          <PasswordField
            label="New password"
            isNew
            value={password}
            onChange={setPassword}
            error={problem?.fields.password}
          />
          <Button kind="main" type="submit" isBusy={reset.isPending} className="self-start">
            Set it
          </Button>
        </form>
      )}
    </Outside>
  );
}
