import { useForm } from "react-hook-form";
import { useLocation } from "react-router";
import type { Schemas } from "../api/client";
import { ROLE_WORDS } from "../study/permissions";
import { useInvitation, useJoin, useSession, useSignOut } from "../study/queries";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Entry, Form } from "../ui/Form";
import { PasswordField } from "../ui/PasswordField";
import { Loading, Notice } from "../ui/States";
import { Outside } from "./Outside";
import { SignInForm } from "./SignIn";

/** An invitation: what it asks one to, and coming in as who one is, or as somebody new. */
export function JoinPage() {
  const key = useLocation().hash.slice(1);
  const seen = useInvitation(key);
  const session = useSession();
  if (key === "")
    return (
      <Outside title="An invitation">
        <Notice kind="wrong">The address is cut off: take it from the letter as a whole.</Notice>
      </Outside>
    );
  if (seen.error)
    return (
      <Outside title="An invitation">
        <Notice kind="wrong">{seen.error.message}</Notice>
      </Outside>
    );
  if (!seen.data || session.isPending) return <Loading what="Loading the invitation" />;
  const { brand, by, role } = seen.data;
  return (
    <Outside
      title={`Work on ${brand}`}
      says={
        <>
          {by || "Somebody"} invites you as <strong className="text-ink">{role}</strong>, who {ROLE_WORDS[role]}.
        </>
      }
    >
      {session.data ? (
        <AsKnown keyOf={key} session={session.data} />
      ) : seen.data.has_account ? (
        <>
          <p>Somebody signs in with {seen.data.email} already. If it is you, sign in, then come in.</p>
          <SignInForm known={seen.data.email} />
        </>
      ) : (
        <AsNew keyOf={key} email={seen.data.email} />
      )}
    </Outside>
  );
}

const inside = (session: Schemas["Session"], before: Schemas["Session"]["brands"]) => {
  const added = session.brands.find((one) => !before.some((old) => old.slug === one.slug));
  window.location.replace(added ? `/${added.slug}/results` : "/");
};

function AsKnown({ keyOf, session }: { keyOf: string; session: Schemas["Session"] }) {
  const join = useJoin();
  const signOut = useSignOut(() => window.location.reload());
  return (
    <>
      {join.error && <Notice kind="wrong">{join.error.message}</Notice>}
      <p>
        You are signed in as {session.name} ({session.email}).
      </p>
      <div className="flex gap-3">
        <Button
          kind="main"
          isBusy={join.isPending}
          onClick={() =>
            join.mutate({ key: keyOf, name: "", password: "" }, { onSuccess: (now) => inside(now, session.brands) })
          }
        >
          Come in as {session.name}
        </Button>
        <Button kind="quiet" onClick={() => signOut.mutate()}>
          I am somebody else
        </Button>
      </div>
    </>
  );
}

function AsNew({ keyOf, email }: { keyOf: string; email: string }) {
  const form = useForm({ defaultValues: { name: "", password: "" } });
  const join = useJoin();
  return (
    <Form
      form={form}
      error={join.error}
      onSubmit={(given) => join.mutate({ key: keyOf, ...given }, { onSuccess: (now) => inside(now, []) })}
    >
      <Field label="E-mail address" help="You sign in with it">
        {(props) => <input {...props} type="email" autoComplete="username" readOnly value={email} />}
      </Field>
      <Entry form={form} name="name" label="Your name">
        {(field) => <input {...field} autoComplete="name" maxLength={120} />}
      </Entry>
      <PasswordField form={form} name="password" isNew />
      <Button kind="main" type="submit" isBusy={join.isPending} className="self-start">
        Come in
      </Button>
    </Form>
  );
}
