import { useForm } from "react-hook-form";
import { ProblemError } from "../api/client";
import { useBegin } from "../study/queries";
import { Button } from "../ui/Button";
import { Entry, Form } from "../ui/Form";
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
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const form = useForm({ defaultValues: { name: "", email: "", password: "", brand: "", time_zone: zone } });
  const problem = begin.error instanceof ProblemError ? begin.error : null;
  const isOver = key === "" || problem?.status === 404;
  return (
    <Outside
      title="Begin"
      says="Nobody is here yet. You will be the first person of this installation, who may do everything in it."
    >
      {isOver ? (
        <Notice kind="wrong">{OVER}</Notice>
      ) : (
        <Form
          form={form}
          error={begin.error}
          // The key is not left in the address, where somebody could read it.
          onSubmit={(given) => begin.mutate({ key, ...given }, { onSuccess: () => location.replace("/") })}
        >
          <Entry form={form} name="name" label="Your name">
            {(field) => <input {...field} autoComplete="name" maxLength={120} />}
          </Entry>
          <Entry form={form} name="email" label="E-mail address" help="You sign in with it">
            {(field) => <input {...field} type="email" autoComplete="username" maxLength={254} />}
          </Entry>
          <PasswordField form={form} name="password" isNew />
          <Entry form={form} name="brand" label="Your first brand" help="Whose posts you look after">
            {(field) => <input {...field} maxLength={120} />}
          </Entry>
          <Entry form={form} name="time_zone" label="Its time zone" help="Days begin by it; it can be changed">
            {(field) => (
              <select {...field}>
                {(ZONES.includes(zone) ? ZONES : [zone, ...ZONES]).map((one) => (
                  <option key={one} value={one}>
                    {one}
                  </option>
                ))}
              </select>
            )}
          </Entry>
          <Button kind="main" type="submit" isBusy={begin.isPending} className="self-start">
            Begin
          </Button>
        </Form>
      )}
    </Outside>
  );
}
