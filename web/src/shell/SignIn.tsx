import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ProblemError } from "../api/client";
import { knowsPasskeys } from "../lib/passkeys";
import { usePasskeySignIn, useSecondFactor, useSession, useSignIn } from "../study/queries";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { PasswordField } from "../ui/PasswordField";
import { Sheet } from "../ui/Sheet";
import { Notice } from "../ui/States";
import { Outside } from "./Outside";

/** The way in. */
export function SignIn() {
  return (
    <Outside title="Dakika" says="Every post has its minute.">
      <SignInForm />
    </Outside>
  );
}

/** The session ended while somebody was at work: the page stays as it is behind, with what was typed. */
export function SignInAgain() {
  const client = useQueryClient();
  const before = useSession().data?.email;
  return (
    <Sheet isOpen form="dialog" title="Your session has ended" onClose={() => undefined} isLasting>
      <p className="mb-3 text-muted">Sign in again to go on. The page behind stays as it is, with what you typed.</p>
      <SignInForm
        known={before}
        onDone={(email) => {
          // Somebody else sees nothing of what stands here.
          if (before && email !== before) return window.location.assign("/");
          void client.invalidateQueries();
        }}
      />
    </Sheet>
  );
}

type Way = "code" | "passkey";

/** Address and password, and what is asked for after them; or a passkey alone. */
export function SignInForm({ known = "", onDone }: { known?: string; onDone?: (email: string) => void }) {
  const [email, setEmail] = useState(known);
  const [password, setPassword] = useState("");
  const [ways, setWays] = useState<Way[] | null>(null);
  const signIn = useSignIn();
  const passkey = usePasskeySignIn();
  if (ways)
    return (
      <SecondStep
        ways={ways}
        onBack={() => {
          setWays(null);
          setPassword("");
        }}
        onDone={onDone}
      />
    );
  const problem = signIn.error as ProblemError | null;
  const wrong = problem && Object.keys(problem.fields).length === 0 ? problem : passkey.error;
  return (
    <>
      {wrong && <Notice kind="wrong">{wrong.message}</Notice>}
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          passkey.reset();
          signIn.mutate(
            { email, password },
            {
              onSuccess: (answer) => ("email" in answer ? onDone?.(answer.email) : setWays(answer.ways)),
            },
          );
        }}
      >
        <Field label="E-mail address" error={problem?.fields.email}>
          {(props) => (
            <input
              {...props}
              type="email"
              autoComplete="username webauthn"
              value={email}
              onChange={(e) => setEmail(e.target.value)}
            />
          )}
        </Field>
        <PasswordField value={password} onChange={setPassword} error={problem?.fields.password} />
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <Button kind="main" type="submit" isBusy={signIn.isPending}>
            Sign in
          </Button>
          {knowsPasskeys() && (
            <Button
              isBusy={passkey.isPending}
              onClick={() => {
                signIn.reset();
                passkey.mutate(undefined, { onSuccess: (session) => onDone?.(session.email) });
              }}
            >
              With a passkey
            </Button>
          )}
          <Link to="/reset" className="under ml-auto hover:text-berry">
            I forgot my password
          </Link>
        </div>
      </form>
    </>
  );
}

/** After the password: a code of one's device, one for recovery, or a passkey. */
function SecondStep({ ways, onBack, onDone }: { ways: Way[]; onBack: () => void; onDone?: (email: string) => void }) {
  const [code, setCode] = useState("");
  const second = useSecondFactor();
  const passkey = usePasskeySignIn();
  const done = { onSuccess: (session: { email: string }) => onDone?.(session.email) };
  const problem = second.error ?? passkey.error;
  const isOver = problem instanceof ProblemError && problem.kind === "password_first";
  const hasCodes = ways.includes("code");
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        passkey.reset();
        second.mutate(code, done);
      }}
    >
      {problem && <Notice kind="wrong">{problem.message}</Notice>}
      {!isOver && (
        <>
          {ways.includes("passkey") && knowsPasskeys() && (
            <Button
              kind={hasCodes ? "plain" : "main"}
              className="self-start"
              isBusy={passkey.isPending}
              onClick={() => {
                second.reset();
                passkey.mutate(undefined, done);
              }}
            >
              Go on with a passkey
            </Button>
          )}
          <Field
            label={hasCodes ? "The code of your device" : "A recovery code"}
            help={
              hasCodes
                ? "Six digits, new every half minute. Without the device, one of your recovery codes does."
                : "Where your passkey is not at hand. Each counts once."
            }
          >
            {(props) => (
              <input
                {...props}
                // biome-ignore lint/a11y/noAutofocus: it is what this step is there for
                autoFocus={hasCodes}
                autoComplete="one-time-code"
                inputMode={hasCodes ? "text" : undefined}
                maxLength={60}
                value={code}
                onChange={(e) => setCode(e.target.value)}
              />
            )}
          </Field>
        </>
      )}
      <div className="flex gap-3">
        {!isOver && (
          <Button
            kind={hasCodes ? "main" : "plain"}
            type="submit"
            isBusy={second.isPending}
            disabled={code.trim() === ""}
          >
            Go on
          </Button>
        )}
        <Button kind="quiet" onClick={onBack}>
          Back to the password
        </Button>
      </div>
    </form>
  );
}
