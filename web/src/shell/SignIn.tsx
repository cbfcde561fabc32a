import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { ProblemError } from "../api/client";
import { knowsPasskeys } from "../lib/passkeys";
import { usePasskeySignIn, useSecondFactor, useSession, useSignIn } from "../study/queries";
import { Button } from "../ui/Button";
import { Entry, Form } from "../ui/Form";
import { PasswordField } from "../ui/PasswordField";
import { Sheet } from "../ui/Sheet";
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
  const form = useForm({ defaultValues: { email: known, password: "" } });
  const [ways, setWays] = useState<Way[] | null>(null);
  const signIn = useSignIn();
  const passkey = usePasskeySignIn();
  if (ways)
    return (
      <SecondStep
        ways={ways}
        onBack={() => {
          setWays(null);
          form.setValue("password", "");
        }}
        onDone={onDone}
      />
    );
  return (
    <Form
      form={form}
      error={(signIn.error as ProblemError | null) ?? passkey.error}
      onSubmit={(given) => {
        passkey.reset();
        signIn.mutate(given, {
          onSuccess: (answer) => ("email" in answer ? onDone?.(answer.email) : setWays(answer.ways)),
        });
      }}
    >
      <Entry form={form} name="email" label="E-mail address">
        {(field) => <input {...field} type="email" autoComplete="username webauthn" />}
      </Entry>
      <PasswordField form={form} name="password" />
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
        <Link to="/reset" state={{ email: form.watch("email") }} className="under ml-auto hover:text-berry">
          I forgot my password
        </Link>
      </div>
    </Form>
  );
}

/** After the password: a code of one's device, one for recovery, or a passkey. */
function SecondStep({ ways, onBack, onDone }: { ways: Way[]; onBack: () => void; onDone?: (email: string) => void }) {
  const form = useForm({ defaultValues: { code: "" } });
  const second = useSecondFactor();
  const passkey = usePasskeySignIn();
  const done = { onSuccess: (session: { email: string }) => onDone?.(session.email) };
  const problem = second.error ?? passkey.error;
  const isOver = problem instanceof ProblemError && problem.kind === "password_first";
  const hasCodes = ways.includes("code");
  return (
    <Form
      form={form}
      error={problem}
      onSubmit={({ code }) => {
        passkey.reset();
        second.mutate(code, done);
      }}
    >
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
          <Entry
            form={form}
            name="code"
            label={hasCodes ? "The code of your device" : "A recovery code"}
            help={
              hasCodes
                ? "Six digits, new every half minute. Without the device, one of your recovery codes does."
                : "Where your passkey is not at hand. Each counts once."
            }
          >
            {(field) => (
              <input
                {...field}
                // biome-ignore lint/a11y/noAutofocus: it is what this step is there for
                autoFocus={hasCodes}
                autoComplete="one-time-code"
                inputMode={hasCodes ? "text" : undefined}
                maxLength={60}
              />
            )}
          </Entry>
        </>
      )}
      <div className="flex gap-3">
        {!isOver && (
          <Button
            kind={hasCodes ? "main" : "plain"}
            type="submit"
            isBusy={second.isPending}
            disabled={form.watch("code").trim() === ""}
          >
            Go on
          </Button>
        )}
        <Button kind="quiet" onClick={onBack}>
          Back to the password
        </Button>
      </div>
    </Form>
  );
}
