import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { ProblemError } from "../api/client";
import { useSession, useSignIn } from "../study/queries";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Sheet } from "../ui/Sheet";
import { Notice } from "../ui/States";

/** The way in. */
export function SignIn() {
  return (
    <main className="mx-auto flex min-h-screen max-w-sm flex-col justify-center gap-5 px-4">
      <div>
        <svg width="48" height="40" viewBox="0 0 24 20" aria-hidden="true" className="mb-3">
          <path
            d="M1 18h22M4 18v-5M8.5 18V8.5M17.5 18v-4M21.5 18V7"
            stroke="var(--ink)"
            strokeWidth="1.5"
            fill="none"
          />
          <path d="M13 18V3" stroke="var(--berry)" strokeWidth="2.6" />
        </svg>
        <h1 className="text-[26px]">Dakika</h1>
        <p className="text-muted">Every post has its minute.</p>
      </div>
      <SignInForm />
    </main>
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

function SignInForm({ known = "", onDone }: { known?: string; onDone?: (email: string) => void }) {
  const [email, setEmail] = useState(known);
  const [password, setPassword] = useState("");
  const signIn = useSignIn();
  const problem = signIn.error as ProblemError | null;
  return (
    <>
      {problem && Object.keys(problem.fields).length === 0 && <Notice kind="wrong">{problem.message}</Notice>}
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate({ email, password }, { onSuccess: (session) => onDone?.(session.email) });
        }}
      >
        <Field label="E-mail address" error={problem?.fields.email}>
          {(props) => (
            <input
              {...props}
              type="email"
              autoComplete="username"
              value={email}
              onChange={(e) => setEmail(e.target.value)}
            />
          )}
        </Field>
        <Field label="Password" error={problem?.fields.password}>
          {(props) => (
            <input
              {...props}
              type="password"
              autoComplete="current-password"
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
          )}
        </Field>
        <Button kind="main" type="submit" isBusy={signIn.isPending} className="self-start">
          Sign in
        </Button>
      </form>
    </>
  );
}
