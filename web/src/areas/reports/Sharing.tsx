import { useState } from "react";
import { useForm } from "react-hook-form";
import { addDays, dayOf, moment } from "../../lib/days";
import { plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { CopyButton } from "../../ui/CopyButton";
import { DateField } from "../../ui/DateField";
import { CheckEntry, Entry, Form } from "../../ui/Form";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { Deliveries } from "./Deliveries";
import { type ReportLink, useLinkActs, useReportLinks } from "./queries";

/** How a report gets to others: by a link, or by mail. */
export function Sharing({ report, onClose }: { report: number; onClose: () => void }) {
  const [way, setWay] = useState<"link" | "mail">("link");
  const tab = (value: "link" | "mail", name: string) => (
    <button
      type="button"
      aria-pressed={way === value}
      className={`min-h-7 border-b-2 px-1 ${way === value ? "border-berry font-semibold" : "border-transparent"}`}
      onClick={() => setWay(value)}
    >
      {name}
    </button>
  );
  return (
    <Sheet isOpen onClose={onClose} title="Give it to others">
      <p className="mb-3 flex gap-4">
        {tab("link", "By a link")}
        {tab("mail", "By mail")}
      </p>
      {way === "link" ? <Links report={report} /> : <Deliveries report={report} />}
    </Sheet>
  );
}

/** Links that open a report to people outside: made, counted, taken back. */
function Links({ report }: { report: number }) {
  const { brand, now } = useBrand();
  const today = dayOf(now, brand.time_zone);
  const links = useReportLinks(brand.slug, report);
  const { share } = useLinkActs(brand.slug, report);
  const form = useForm({
    defaultValues: { name: "", until: addDays(today, 90) as string, password: "", is_frozen: false },
  });
  const typed = form.watch();
  const [address, setAddress] = useState("");
  return (
    <>
      <Form
        form={form}
        error={share.error}
        className="flex flex-col gap-3"
        onSubmit={(given) => {
          share
            .mutateAsync({ ...given, until: `${given.until}T23:59:59Z` })
            .then((made) => setAddress(made.address))
            .catch(() => undefined);
        }}
      >
        <Entry form={form} name="name" label="For whom">
          {(field) => <input {...field} maxLength={80} />}
        </Entry>
        <Entry form={form} name="until" label="Open until">
          {(field) => <DateField {...field} today={today} />}
        </Entry>
        <Entry form={form} name="password" label="Password" help="Left empty, whoever has the link sees it">
          {(field) => <input {...field} type="text" autoComplete="off" maxLength={200} />}
        </Entry>
        <CheckEntry
          form={form}
          name="is_frozen"
          help="Otherwise it shows the report and its figures as they are when it is opened"
        >
          As it is now, for good
        </CheckEntry>
        <span>
          <Button type="submit" kind="main" isBusy={share.isPending} disabled={!typed.name.trim() || !typed.until}>
            Make the link
          </Button>
        </span>
      </Form>
      {address && (
        <div className="mt-3 border border-rule-strong bg-wash p-2" role="status">
          <p>This is the link. It is shown this once.</p>
          <p className="flex items-center gap-2">
            <code className="min-w-0 break-all">{address}</code>
            <CopyButton text={address} said="Copied." />
          </p>
        </div>
      )}
      <h3 className="mt-4 text-[15px]">Links</h3>
      {links.error ? (
        <Failed error={links.error} onRetry={() => links.refetch()} />
      ) : !links.data ? (
        <Loading />
      ) : links.data.length === 0 ? (
        <p className="label">None yet.</p>
      ) : (
        <ul>
          {links.data.map((one) => (
            <Row key={one.id} link={one} report={report} />
          ))}
        </ul>
      )}
    </>
  );
}

function Row({ link, report }: { link: ReportLink; report: number }) {
  const { brand, now } = useBrand();
  const say = useToast();
  const { revoke } = useLinkActs(brand.slug, report);
  const isOver = link.revoked_at !== null || new Date(link.until) < now;
  const how = [
    link.has_password && "with a password",
    link.is_frozen && `as it was ${moment(link.made_at, brand.time_zone)}`,
  ];
  return (
    <li className="rowline flex items-center justify-between gap-2 py-1.5">
      <span className={isOver ? "text-muted" : ""}>
        {link.name}
        <span className="label block">
          {link.revoked_at ? "taken back" : `until ${moment(link.until, brand.time_zone)}`}
          {how.filter(Boolean).map((one) => `, ${one}`)}; {plural(link.visits ?? 0, "visit")}
          {link.visited_at && `, the last ${moment(link.visited_at, brand.time_zone)}`}
        </span>
      </span>
      {!isOver && (
        <Button
          isBusy={revoke.isPending}
          onClick={() => revoke.mutateAsync(link.id).catch((error: Error) => say(error.message, "wrong"))}
        >
          Take it back
        </Button>
      )}
    </li>
  );
}
