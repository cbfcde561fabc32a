import { useState } from "react";
import { Link } from "react-router";
import { ProblemError } from "../../api/client";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Failed, Loading, Notice } from "../../ui/States";
import { TimeField } from "../../ui/TimeField";
import { useToast } from "../../ui/Toast";
import { BrowserList, useBrowsers } from "./Browsers";
import { type NoticeChoices, useKeepNoticeChoices, useNoticeChoices } from "./queries";
import { noticesTitle } from "./rules";

const BY_MAIL = { never: "never", soon: "at once", daily: "in the day's letter" } as const;
type ByMail = keyof typeof BY_MAIL;

/** How one wants to be told: what here, what by mail and when, and in which hours not at all. */
export function NoticesPage() {
  const { brand } = useBrand();
  const found = useNoticeChoices(brand.slug);
  if (found.error) return <Failed error={found.error} onRetry={() => found.refetch()} />;
  if (!found.data) return <Loading what="Loading what you are told of" />;
  return <Form key={brand.slug} start={found.data} />;
}

const clock = (time: string | null | undefined) => time?.slice(0, 5) ?? "";

function Form({ start }: { start: NoticeChoices }) {
  const { brand } = useBrand();
  const keep = useKeepNoticeChoices(brand.slug);
  const say = useToast();
  const [kinds, setKinds] = useState(start.kinds);
  const [isQuiet, setQuiet] = useState(start.hours.quiet_from !== null);
  const [hours, setHours] = useState({
    quiet_from: clock(start.hours.quiet_from) || "21:00",
    quiet_to: clock(start.hours.quiet_to) || "07:00",
    digest_at: clock(start.hours.digest_at),
  });
  const problem = keep.error instanceof ProblemError ? keep.error : null;
  const set = (kind: string, patch: Partial<NoticeChoices["kinds"][number]>) =>
    setKinds(kinds.map((one) => (one.kind === kind ? { ...one, ...patch } : one)));
  const isDaily = kinds.some((one) => one.by_mail === "daily");
  const isSent = kinds.some((one) => one.by_mail !== "never" || one.by_push);
  const browsers = useBrowsers();
  return (
    <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="notices-title">
      <Link to={`/${brand.slug}/team/you`} className="label under inline-flex h-6 items-center hover:text-berry">
        Your own page
      </Link>
      <h1 id="notices-title" className="text-[18px] leading-6">
        {noticesTitle(kinds, brand.name)}
      </h1>
      <p className="text-muted">
        Letters go to {start.email}. What you read here before a letter is due is left out of it.
      </p>
      <form
        className="mt-3 max-w-3xl"
        onSubmit={(event) => {
          event.preventDefault();
          const quiet = isQuiet ? {} : { quiet_from: null, quiet_to: null };
          keep.mutate(
            {
              kinds: kinds.map(({ kind, is_shown, by_mail, by_push }) => ({ kind, is_shown, by_mail, by_push })),
              hours: { ...hours, ...quiet },
            },
            { onSuccess: () => say("Kept. It holds from the next notice on.") },
          );
        }}
      >
        <table className="w-full table-fixed">
          <thead className="label text-left">
            <tr className="rowline h-7">
              <th className="font-normal">What of {brand.name}</th>
              <th className="w-[90px] font-normal narrow:w-[50px]">Here</th>
              <th className="w-[190px] font-normal narrow:w-[120px]">By mail</th>
              <th className="w-[110px] pl-3 font-normal narrow:w-[80px]">In browsers</th>
            </tr>
          </thead>
          <tbody>
            {kinds.map((one) => (
              <tr key={one.kind} className="rowline h-10">
                <th scope="row" className="text-left font-normal">
                  {one.words}
                </th>
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Here: ${one.words}`}
                    checked={one.is_shown}
                    onChange={(e) => set(one.kind, { is_shown: e.target.checked })}
                    className="h-4 w-4 accent-(--berry)"
                  />
                </td>
                <td>
                  <select
                    aria-label={`By mail: ${one.words}`}
                    value={one.by_mail}
                    onChange={(e) => set(one.kind, { by_mail: e.target.value as ByMail })}
                    className="h-8 w-full rounded-[2px] border border-rule-strong bg-panel px-2 narrow:min-w-[92px]"
                  >
                    {Object.entries(BY_MAIL).map(([value, label]) => (
                      <option key={value} value={value}>
                        {label}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="pl-3">
                  <input
                    type="checkbox"
                    aria-label={`In browsers: ${one.words}`}
                    checked={one.by_push}
                    onChange={(e) => set(one.kind, { by_push: e.target.checked })}
                    className="h-4 w-4 accent-(--berry)"
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <h2 className="mt-5 text-[16px]">When letters and messages come</h2>
        <p className="label">
          By the clock of {start.zone}, in all your brands. What comes at once waits for the end of the quiet hours.
        </p>
        <div className="mt-2 flex flex-wrap items-end gap-4">
          <label className="flex h-8 items-center gap-2">
            <input
              type="checkbox"
              checked={isQuiet}
              disabled={!isSent}
              onChange={(e) => setQuiet(e.target.checked)}
              className="h-4 w-4 accent-(--berry)"
            />
            Not at night
          </label>
          {isQuiet && (
            <>
              <div className="w-[110px]">
                <Field label="Quiet from">
                  {(props) => (
                    <TimeField
                      {...props}
                      value={hours.quiet_from}
                      onChange={(quiet_from) => setHours({ ...hours, quiet_from })}
                    />
                  )}
                </Field>
              </div>
              <div className="w-[110px]">
                <Field label="until">
                  {(props) => (
                    <TimeField
                      {...props}
                      value={hours.quiet_to}
                      onChange={(quiet_to) => setHours({ ...hours, quiet_to })}
                    />
                  )}
                </Field>
              </div>
            </>
          )}
          {isDaily && (
            <div className="w-[150px]">
              <Field label="The day's letter at">
                {(props) => (
                  <TimeField
                    {...props}
                    value={hours.digest_at}
                    onChange={(digest_at) => setHours({ ...hours, digest_at })}
                  />
                )}
              </Field>
            </div>
          )}
        </div>
        {keep.error && (
          <div className="mt-3">
            <Notice kind="wrong">
              {problem ? (Object.values(problem.fields)[0] ?? problem.message) : keep.error.message}
            </Notice>
          </div>
        )}
        <Button kind="main" type="submit" className="mt-4" isBusy={keep.isPending}>
          Keep it so
        </Button>
      </form>
      {browsers.data && <BrowserList found={browsers.data} />}
    </section>
  );
}
