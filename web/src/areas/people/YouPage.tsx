import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { ProblemError } from "../../api/client";
import { moment } from "../../lib/days";
import { plural, since } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { useChangeAccount, useSession } from "../../study/queries";
import { Button } from "../../ui/Button";
import { Entry, Form } from "../../ui/Form";
import { PasswordField } from "../../ui/PasswordField";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { Devices } from "./Devices";
import {
  type Account,
  askForAddress,
  eraseAccount,
  useAccount,
  useChangePassword,
  useDone,
  useEndSession,
} from "./queries";
import { safetyTitle } from "./rules";
import { NotSure, useSure } from "./useSure";
import { useZone } from "./useZone";

const ZONES = Intl.supportedValuesOf("timeZone");
const LANGUAGES = { en: "English", pt: "Português", el: "Ελληνικά", sw: "Kiswahili" };
const THEMES = { system: "As the system", light: "Light", dark: "Dark" };

/** Oneself: what one is called, what lets one in, where one is signed in. */
export function YouPage() {
  const account = useAccount();
  if (account.error) return <Failed error={account.error} onRetry={() => account.refetch()} />;
  if (!account.data) return <Loading what="Loading your account" />;
  return <View account={account.data} />;
}

function View({ account }: { account: Account }) {
  const { brand } = useBrand();
  const { surely, dialog } = useSure(account);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-label="About you">
        <h1 className="text-[18px] leading-6">{account.name}</h1>
        <Choices account={account} />
        <Address account={account} surely={surely} />
        <Password />
        <p className="mt-4 max-w-md border-t border-rule pt-3">
          <Link to={`/${brand.slug}/team/notices`} className="under hover:text-berry">
            Which notices you get, and by mail
          </Link>
        </p>
        <Going surely={surely} />
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3" aria-label="Signing in">
        <h2 className="text-[18px] leading-6">{safetyTitle(account)}</h2>
        <Devices account={account} surely={surely} />
        <Sessions account={account} />
        <Events account={account} />
      </section>
      {dialog}
    </div>
  );
}

/** Everything about oneself, as a file, and its end. */
function Going({ surely }: { surely: <T>(act: () => Promise<T>) => Promise<T> }) {
  const [isGoing, setGoing] = useState(false);
  const erase = useDone(() => surely(eraseAccount));
  const problem = erase.error instanceof ProblemError ? erase.error : null;
  return (
    <div className="mt-3 flex max-w-md flex-wrap gap-x-4 border-t border-rule pt-3">
      <a href="/api/account/everything" download className="under inline-flex h-7 items-center hover:text-berry">
        Everything about you, as a file
      </a>
      <Button kind="quiet" onClick={() => setGoing(true)}>
        Erase your account
      </Button>
      <Sheet form="dialog" isOpen={isGoing} title="Erase your account?" onClose={() => setGoing(false)}>
        <p>
          You are signed out everywhere and cannot come back by this address. What is yours in your brands, campaigns
          and drafts, goes to their first admin. That something was done stays in the log, by somebody without a name.
        </p>
        {erase.error && !(erase.error instanceof NotSure) && (
          <div className="mt-3">
            <Notice kind="wrong">{Object.values(problem?.fields ?? {})[0] ?? erase.error.message}</Notice>
          </div>
        )}
        <Button
          kind="danger"
          className="mt-4 self-start"
          isBusy={erase.isPending}
          onClick={() => erase.mutate(undefined, { onSuccess: () => window.location.assign("/") })}
        >
          Erase it
        </Button>
      </Sheet>
    </div>
  );
}

function Choices({ account }: { account: Account }) {
  const { name, language, time_zone, theme } = account;
  const form = useForm({ defaultValues: { name, language, time_zone, theme } });
  const change = useChangeAccount();
  const say = useToast();
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return (
    <Form
      form={form}
      className="mt-3 flex max-w-md flex-col gap-3"
      aria-label="Name and choices"
      error={change.error}
      onSubmit={(given) => change.mutate(given, { onSuccess: () => say("Saved.") })}
    >
      <Entry form={form} name="name" label="Your name">
        {(field) => <input {...field} autoComplete="name" maxLength={120} />}
      </Entry>
      <div className="grid grid-cols-2 gap-3">
        <Entry form={form} name="theme" label="Light or dark">
          {(field) => (
            <select {...field}>
              {Object.entries(THEMES).map(([key, name]) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
            </select>
          )}
        </Entry>
        <Entry form={form} name="language" label="Language of new reports">
          {(field) => (
            <select {...field}>
              {Object.entries(LANGUAGES).map(([key, name]) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
            </select>
          )}
        </Entry>
      </div>
      <Entry
        form={form}
        name="time_zone"
        label="Your time zone"
        help="For what is no brand's: invitations, where you are signed in. A brand's days are told by its own clock."
      >
        {(field) => (
          <select {...field}>
            <option value="">As the browser: {here}</option>
            {(time_zone && !ZONES.includes(time_zone) ? [time_zone, ...ZONES] : ZONES).map((zone) => (
              <option key={zone} value={zone}>
                {zone}
              </option>
            ))}
          </select>
        )}
      </Entry>
      <Button type="submit" className="self-start" isBusy={change.isPending}>
        Save
      </Button>
    </Form>
  );
}

export type Surely = <T>(act: () => Promise<T>) => Promise<T>;

function Address({ account, surely }: { account: Account; surely: Surely }) {
  const [isOpen, setOpen] = useState(false);
  const form = useForm({ defaultValues: { email: "" } });
  const ask = useDone((to: string) => surely(() => askForAddress(to)));
  return (
    <section className="mt-5 max-w-md border-t border-rule pt-3" aria-label="E-mail address">
      <p>
        You sign in as <strong>{account.email}</strong>.{" "}
        {!isOpen && (
          <Button kind="quiet" onClick={() => setOpen(true)}>
            Another address
          </Button>
        )}
      </p>
      {ask.isSuccess ? (
        <Notice kind="good">
          A letter is on its way to {ask.variables}. What stands in it makes that the address you sign in with; until
          then nothing changes.
        </Notice>
      ) : (
        isOpen && (
          <Form
            form={form}
            className="mt-2 flex flex-col gap-3"
            error={ask.error instanceof NotSure ? null : ask.error}
            onSubmit={({ email }) => ask.mutate(email)}
          >
            <Entry form={form} name="email" label="New address" help="We write to it first">
              {(field) => <input {...field} type="email" autoComplete="email" maxLength={254} />}
            </Entry>
            <div className="flex gap-3">
              <Button type="submit" isBusy={ask.isPending} disabled={form.watch("email").trim() === ""}>
                Write to it
              </Button>
              <Button kind="quiet" onClick={() => setOpen(false)}>
                Leave it
              </Button>
            </div>
          </Form>
        )
      )}
    </section>
  );
}

function Password() {
  const [isOpen, setOpen] = useState(false);
  const form = useForm({ defaultValues: { current: "", password: "" } });
  const change = useChangePassword();
  const say = useToast();
  const { current, password } = form.watch();
  if (!isOpen)
    return (
      <section className="mt-3 max-w-md border-t border-rule pt-3" aria-label="Password">
        <Button onClick={() => setOpen(true)}>Change the password</Button>
      </section>
    );
  return (
    <section className="mt-3 max-w-md border-t border-rule pt-3" aria-label="Password">
      <Form
        form={form}
        className="flex flex-col gap-3"
        error={change.error}
        onSubmit={(given) =>
          change.mutate(given, {
            onSuccess: () => {
              say("Changed. Everywhere else you are signed out.");
              setOpen(false);
              form.reset();
            },
          })
        }
      >
        <PasswordField form={form} name="current" label="Present password" />
        <PasswordField form={form} name="password" label="New password" isNew />
        <div className="flex gap-3">
          <Button type="submit" isBusy={change.isPending} disabled={current === "" || password === ""}>
            Change it
          </Button>
          <Button kind="quiet" onClick={() => setOpen(false)}>
            Leave it
          </Button>
        </div>
      </Form>
    </section>
  );
}

function Sessions({ account }: { account: Account }) {
  const zone = useZone();
  const { now } = useBrand();
  const end = useEndSession();
  const others = account.sessions.filter((one) => !one.is_this).length;
  const seen = useSession().data;
  return (
    <section className="mt-6" aria-label="Where you are signed in">
      <div className="flex items-baseline gap-4">
        <h2 className="text-[16px]">
          {others === 0
            ? "You are signed in here alone"
            : `You are signed in here and in ${plural(others, "other place")}`}
        </h2>
        {others > 0 && (
          <Button kind="quiet" isBusy={end.isPending} onClick={() => end.mutate("others")}>
            Sign out everywhere else
          </Button>
        )}
      </div>
      {end.error && <Notice kind="wrong">{end.error.message}</Notice>}
      <table className="mt-1 w-full table-fixed">
        <caption className="sr-only">Where {seen?.name} is signed in</caption>
        <thead className="label text-left">
          <tr className="rowline h-7">
            <th className="font-normal">Browser</th>
            <th className="w-[150px] font-normal narrow:hidden">From</th>
            <th className="w-[150px] font-normal narrow:hidden">Since</th>
            <th className="w-[90px] font-normal">Last seen</th>
            <th className="w-[80px] font-normal">
              <span className="sr-only">End it</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {account.sessions.map((one) => (
            <tr key={one.id} className="rowline h-9">
              <td className="truncate">
                {one.device || "A browser that does not say its name"}
                {one.is_this && <span className="label ml-1">this one</span>}
              </td>
              <td className="truncate narrow:hidden" title={one.address}>
                {one.address}
              </td>
              <td className="narrow:hidden">{moment(one.began_at, zone)}</td>
              <td>{one.is_this ? "now" : since(one.seen_at, now)}</td>
              <td className="text-right">
                {!one.is_this && (
                  <Button kind="quiet" isBusy={end.isPending} onClick={() => end.mutate(one.id)}>
                    Sign out
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** What was changed of it lately: whoever finds something there that they did not do changes their password. */
function Events({ account }: { account: Account }) {
  const zone = useZone();
  if (account.events.length === 0) return null;
  return (
    <section className="mt-6" aria-label="What happened to your account">
      <h2 className="text-[16px]">What happened to your account</h2>
      <p className="label">Something you did not do? Change your password: it signs everybody else out.</p>
      <ul className="mt-1">
        {account.events.map((one) => (
          <li key={`${one.at} ${one.words}`} className="rowline flex h-7 items-center gap-4">
            <span className="w-[130px] shrink-0">{moment(one.at, zone)}</span>
            <span className="min-w-0 flex-1 truncate">{one.words}</span>
            <span className="label">{one.address}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
