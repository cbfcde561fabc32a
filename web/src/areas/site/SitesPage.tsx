import { useState } from "react";
import { useForm } from "react-hook-form";
import { moment } from "../../lib/days";
import { figure, plural, since } from "../../lib/format";
import { AreaFrame } from "../../study/AreaFrame";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { CopyButton } from "../../ui/CopyButton";
import { CheckEntry, Entry, Form } from "../../ui/Form";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import {
  type AccessLog,
  type Goal,
  isMoving,
  type Sites,
  useSaveGoal,
  useSaveSite,
  useSites,
  useUploadLogs,
} from "./queries";
import { logLine, money } from "./rules";

/** The brand's sites with the script for their pages, and what people are to do there. */
export function SitesPage() {
  const { brand } = useBrand();
  const sites = useSites(brand.slug);
  return (
    <AreaFrame area="site">
      {sites.error ? (
        <Failed error={sites.error} onRetry={() => sites.refetch()} />
      ) : !sites.data ? (
        <Loading what="Loading sites and goals" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-2 gap-10 overflow-y-auto px-5 py-3">
          <SiteList data={sites.data} />
          <GoalList data={sites.data} />
        </div>
      )}
    </AreaFrame>
  );
}

function SiteList({ data }: { data: Sites }) {
  const { brand, can, now } = useBrand();
  const canChange = can("site.setup");
  const [edited, setEdited] = useState<number | "new" | null>(null);
  const site = data.sites.find((s) => s.id === edited);
  return (
    <section aria-labelledby="sites-title">
      <h1 id="sites-title" className="text-[18px] leading-6">
        Sites
      </h1>
      <p className="label">
        One line in each page counts visits: no cookies, nothing for people who ask not to be counted, no address kept.
      </p>
      {data.sites.length === 0 && (
        <p className="mt-2">No site is declared yet. Without one, clicks end at our redirect.</p>
      )}
      <ul className="mt-2">
        {data.sites.map((s) => {
          const line = `<script async src="${data.script}" data-site="${s.key}"></script>`;
          return (
            <li key={s.id} className="rowline py-2">
              <p className="flex justify-between">
                <b>{s.name}</b>
                <span className="label">
                  {plural(s.visits, "visit")} in seven days, the last {since(s.last_at, now)}
                </span>
              </p>
              <p className="label">{s.hosts.join(", ")}</p>
              <p className="mt-1 flex items-start gap-1">
                <code className="block flex-1 bg-panel px-2 py-1 text-[12px] break-all">{line}</code>
                <CopyButton text={line} said="The line is copied." />
              </p>
              {canChange && (
                <p className="flex gap-4">
                  <Button kind="quiet" onClick={() => setEdited(s.id)}>
                    Change
                  </Button>
                  <BringLogs site={s.id} name={s.name} />
                </p>
              )}
            </li>
          );
        })}
      </ul>
      {canChange && (
        <Button className="mt-3" onClick={() => setEdited("new")}>
          Declare a site
        </Button>
      )}
      <Logs logs={data.logs} />
      <Sheet
        isOpen={edited !== null}
        onClose={() => setEdited(null)}
        title={site ? "Change the site" : "Declare a site"}
      >
        {edited !== null && (
          <SiteForm
            key={edited}
            id={site?.id}
            name={site?.name ?? brand.name}
            hosts={site?.hosts.join("\n") ?? ""}
            onDone={() => setEdited(null)}
          />
        )}
      </Sheet>
    </section>
  );
}

/** Access logs of the site's server, for the days before the script stood in its pages, or instead of it. */
function BringLogs({ site, name }: { site: number; name: string }) {
  const { brand } = useBrand();
  const upload = useUploadLogs(brand.slug);
  const say = useToast();
  return (
    <label
      className={`under flex h-7 cursor-pointer items-center hover:text-berry ${upload.isPending ? "opacity-50" : ""}`}
    >
      {upload.isPending ? "Bringing them in …" : "Bring in access logs"}
      <input
        type="file"
        multiple
        accept=".log,.gz,.txt"
        aria-label={`Access logs of ${name}`}
        className="sr-only"
        disabled={upload.isPending}
        onChange={(event) => {
          // By name, which is how servers number them.
          const files = [...(event.target.files ?? [])].sort((a, b) => a.name.localeCompare(b.name));
          event.target.value = "";
          if (files.length > 0)
            upload.mutate(
              { site, files },
              {
                onSuccess: (count) => say(`${plural(count, "log")} will be read. You may leave this page.`),
                onError: (error) => say(error.message, "wrong"),
              },
            );
        }}
      />
    </label>
  );
}

/** What came of the logs, the latest first. */
function Logs({ logs }: { logs: AccessLog[] }) {
  const { brand } = useBrand();
  if (logs.length === 0) return null;
  return (
    <section aria-labelledby="logs-title" className="mt-5">
      <h2 id="logs-title" className="text-[16px]">
        Access logs
      </h2>
      <p className="label">Read again, a log adds nothing. Addresses are hashed by the day and not kept.</p>
      <ul>
        {logs.map((log) => (
          <li key={log.id} className="rowline py-1.5">
            <p className="flex justify-between gap-3">
              <b className="truncate">{log.file_name}</b>
              <span className="label whitespace-nowrap">
                {log.site}, {moment(log.created_at, brand.time_zone)}
              </span>
            </p>
            <p role={isMoving(log) ? "status" : undefined}>{logLine(log)}</p>
            {log.message && <p className="text-down">{log.message}</p>}
          </li>
        ))}
      </ul>
    </section>
  );
}

type SiteProps = { id?: number; name: string; hosts: string; onDone: () => void };

function SiteForm({ id, name: given, hosts: givenHosts, onDone }: SiteProps) {
  const { brand } = useBrand();
  const save = useSaveSite(brand.slug);
  const form = useForm({ defaultValues: { name: given, hosts: givenHosts } });
  return (
    <Form
      form={form}
      error={save.error}
      className="flex flex-col gap-3.5"
      onSubmit={({ name, hosts }) =>
        save.mutate({ id, body: { name, hosts: hosts.split(/[\s,]+/).filter(Boolean) } }, { onSuccess: onDone })
      }
    >
      <Entry form={form} name="name" label="Name">
        {(field) => <input {...field} />}
      </Entry>
      <Entry
        form={form}
        name="hosts"
        label="Hosts"
        help="One a line, such as orrery.example. Counting from elsewhere is refused."
      >
        {(field) => <textarea {...field} rows={3} className={`${field.className} !h-auto py-1`} />}
      </Entry>
      <Button kind="main" type="submit" isBusy={save.isPending} className="self-start">
        Keep the site
      </Button>
    </Form>
  );
}

const KINDS: Record<string, string> = {
  page: "by a page",
  event: "by an event of the script",
  import: "told by file or program",
};

function GoalList({ data }: { data: Sites }) {
  const { can } = useBrand();
  const canChange = can("site.setup");
  const [edited, setEdited] = useState<Goal | "new" | null>(null);
  return (
    <section aria-labelledby="goals-title">
      <h2 id="goals-title" className="text-[18px] leading-6">
        Goals
      </h2>
      <p className="label">
        What people are to do, and what it is worth to you where an order says nothing of its own.
      </p>
      <table className="mt-2 w-full table-fixed">
        <thead className="label text-left">
          <tr className="h-7 border-b border-rule-strong">
            <th className="font-normal">Goal</th>
            <th className="w-[44%] font-normal">Reached</th>
            <th className="w-[80px] text-right font-normal">Worth</th>
            <th className="w-[70px] text-right font-normal">Ever</th>
          </tr>
        </thead>
        <tbody>
          {data.goals.map((goal) => (
            <tr key={goal.id} className={`rowline h-8 ${goal.is_archived ? "text-muted" : ""}`}>
              <td className="truncate">
                {canChange ? (
                  <button type="button" className="under leading-6 hover:text-berry" onClick={() => setEdited(goal)}>
                    {goal.name}
                  </button>
                ) : (
                  goal.name
                )}
                {goal.is_archived && <span className="label"> archived</span>}
              </td>
              <td className="truncate">
                {KINDS[goal.kind]} <span className="label">{goal.pattern}</span>
              </td>
              <td className="text-right">{goal.cents ? money(goal.cents, goal.currency ?? "EUR") : "–"}</td>
              <td className="text-right font-semibold">{figure(goal.count)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {data.goals.length === 0 && <p className="mt-2">No goal yet: visits are counted, but not what they are for.</p>}
      {canChange && (
        <Button className="mt-3" onClick={() => setEdited("new")}>
          Set a goal
        </Button>
      )}
      <Sheet
        isOpen={edited !== null}
        onClose={() => setEdited(null)}
        title={edited === "new" ? "Set a goal" : "Change the goal"}
      >
        {edited && (
          <GoalForm
            key={edited === "new" ? "new" : edited.id}
            goal={edited === "new" ? null : edited}
            onDone={() => setEdited(null)}
          />
        )}
      </Sheet>
    </section>
  );
}

function GoalForm({ goal, onDone }: { goal: Goal | null; onDone: () => void }) {
  const { brand } = useBrand();
  const save = useSaveGoal(brand.slug);
  const say = useToast();
  const form = useForm({
    defaultValues: {
      name: goal?.name ?? "",
      kind: (goal?.kind ?? "page") as "page" | "event" | "import",
      pattern: goal?.pattern ?? "",
      cents: goal?.cents ? String(goal.cents / 100) : "",
      currency: goal?.currency ?? "EUR",
      is_archived: goal?.is_archived ?? false,
    },
  });
  const kind = form.watch("kind");
  return (
    <Form
      form={form}
      error={save.error}
      className="flex flex-col gap-3.5"
      onSubmit={(given) => {
        const body = { ...given, cents: Math.round(Number(given.cents || 0) * 100) };
        save.mutate(
          { id: goal?.id, body },
          {
            onSuccess: () => {
              onDone();
              say(kind === "page" ? "The goal is kept; visits of before are looked through too." : "The goal is kept.");
            },
          },
        );
      }}
    >
      <Entry form={form} name="name" label="Name">
        {(field) => <input {...field} />}
      </Entry>
      <Entry form={form} name="kind" label="Reached">
        {(field) => (
          <select {...field}>
            {Object.entries(KINDS).map(([key, text]) => (
              <option key={key} value={key}>
                {text}
              </option>
            ))}
          </select>
        )}
      </Entry>
      {kind !== "import" && (
        <Entry
          form={form}
          name="pattern"
          label={kind === "page" ? "Path of the page" : "Name of the event"}
          help={kind === "page" ? "/thanks, or /orders/*/done with * for any part" : "as in dakika.event(“signup”)"}
        >
          {(field) => <input {...field} />}
        </Entry>
      )}
      <div className="grid grid-cols-2 gap-3">
        <Entry form={form} name="cents" label="Worth">
          {(field) => (
            <input {...field} inputMode="decimal" onChange={(e) => field.onChange(e.target.value.replace(",", "."))} />
          )}
        </Entry>
        <Entry form={form} name="currency" label="Currency">
          {(field) => <input {...field} maxLength={3} onChange={(e) => field.onChange(e.target.value.toUpperCase())} />}
        </Entry>
      </div>
      {goal && (
        <CheckEntry form={form} name="is_archived">
          Archived: keeps its conversions, takes no more
        </CheckEntry>
      )}
      <Button kind="main" type="submit" isBusy={save.isPending} className="self-start">
        Keep the goal
      </Button>
    </Form>
  );
}
