import { useState } from "react";
import { ProblemError } from "../api/client";
import { useBegin } from "../study/queries";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { PasswordField } from "../ui/PasswordField";
import { Notice } from "../ui/States";
import { Outside } from "./Outside";

const ZONES = Intl.supportedValuesOf("timeZone");
const OVER =
  "This address lets nobody in any more: it is used once, and for a day. If nobody has begun yet, starting Dakika again prints another one.";

/** The first person of an installation, with the key that its first start printed. */
export function BeginPage() {
  const key = location.hash.slice(1);
  const begin = useBegin();
  const [typed, setTyped] = useState({
    name: "",
    email: "",
    password: "",
    brand: "",
    time_zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  });
  const problem = begin.error instanceof ProblemError ? begin.error : null;
  const isOver = key === "" || problem?.status === 404;
  const set = (name: keyof typeof typed) => (event: { target: { value: string } }) =>
    setTyped({ ...typed, [name]: event.target.value });
  return (
    <Outside
      title="Begin"
      says="Nobody is here yet. You will be the first person of this installation, who may do everything in it."
    >
      {isOver ? (
        <Notice kind="wrong">{OVER}</Notice>
      ) : (
        <>
          {problem && Object.keys(problem.fields).length === 0 && <Notice kind="wrong">{problem.message}</Notice>}
          {begin.error && !problem && <Notice kind="wrong">{begin.error.message}</Notice>}
          <form
            className="flex flex-col gap-4"
            onSubmit={(event) => {
              event.preventDefault();
              // The key is not left in the address, where somebody could read it.
              begin.mutate({ key, ...typed }, { onSuccess: () => location.replace("/") });
            }}
          >
            <Field label="Your name" error={problem?.fields.name}>
              {(props) => (
                <input {...props} autoComplete="name" maxLength={120} value={typed.name} onChange={set("name")} />
              )}
            </Field>
            <Field label="E-mail address" help="You sign in with it" error={problem?.fields.email}>
              {(props) => (
                <input
                  {...props}
                  type="email"
                  autoComplete="username"
                  maxLength={254}
                  value={typed.email}
                  onChange={set("email")}
                />
              )}
            </Field>
            <PasswordField
              isNew
              value={typed.password}
              onChange={(password) => setTyped({ ...typed, password })}
              error={problem?.fields.password}
            />
            <Field label="Your first brand" help="Whose posts you look after" error={problem?.fields.brand}>
              {(props) => <input {...props} maxLength={120} value={typed.brand} onChange={set("brand")} />}
            </Field>
            <Field label="Its time zone" help="Days begin by it; it can be changed" error={problem?.fields.time_zone}>
              {(props) => (
                <select {...props} value={typed.time_zone} onChange={set("time_zone")}>
                  {(ZONES.includes(typed.time_zone) ? ZONES : [typed.time_zone, ...ZONES]).map((zone) => (
                    <option key={zone} value={zone}>
                      {zone}
                    </option>
                  ))}
                </select>
              )}
            </Field>
            <Button kind="main" type="submit" isBusy={begin.isPending} className="self-start">
              Begin
            </Button>
          </form>
        </>
      )}
    </Outside>
  );
}
