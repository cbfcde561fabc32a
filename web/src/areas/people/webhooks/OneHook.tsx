import { useState } from "react";
import { moment } from "../../../lib/days";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { Cut } from "../../../ui/Cut";
import { StateWord } from "../../../ui/Marks";
import { Sheet } from "../../../ui/Sheet";
import { Empty, Failed, Loading, Notice } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import type { Account } from "../queries";
import { NotSure, useSure } from "../useSure";
import { HookSheet, SecretSheet } from "./HookSheet";
import {
  type Delivery,
  type EventKind,
  renewSecret,
  useDeliveries,
  useHookDone,
  useRemoveHook,
  useSendAgain,
  useTry,
  type WebHook,
} from "./queries";
import { became } from "./rules";

type Props = { hook: WebHook; kinds: EventKind[]; account: Account };

/** One address: what can be done with it, and what it was told. */
export function OneHook({ hook, kinds, account }: Props) {
  const { brand } = useBrand();
  const say = useToast();
  const { surely, dialog } = useSure(account);
  const [isChanging, setChanging] = useState(false);
  const [isLeaving, setLeaving] = useState(false);
  const tried = useTry(brand.slug);
  const remove = useRemoveHook(brand.slug);
  const renew = useHookDone(brand.slug, () => surely(() => renewSecret(brand.slug, hook.id)));
  const wrong = tried.error ?? (renew.error instanceof NotSure ? null : renew.error);
  const words = kinds.filter((one) => hook.kinds.includes(one.name)).map((one) => one.words);
  return (
    <section className="mt-5" aria-labelledby="hook-title">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 id="hook-title" className="text-[16px]">
          {hook.name}
        </h2>
        <Button
          kind="quiet"
          isBusy={tried.isPending}
          disabled={!hook.is_on}
          onClick={() => tried.mutate(hook.id, { onSuccess: () => say("An event that tells nothing is on its way.") })}
        >
          Try it
        </Button>
        <Button kind="quiet" onClick={() => setChanging(true)}>
          Change
        </Button>
        <Button kind="quiet" isBusy={renew.isPending} onClick={() => renew.mutate(undefined)}>
          New secret
        </Button>
        <Button kind="quiet" onClick={() => setLeaving(true)}>
          Take away
        </Button>
      </div>
      <p className="label">Told when: {words.join("; ")}</p>
      {hook.before_until && hook.before_until > new Date().toISOString() && (
        <p className="label">
          Its secret of before signs beside the new one until {moment(hook.before_until, brand.time_zone)}.
        </p>
      )}
      {hook.off_because && <Notice kind="wrong">{hook.off_because} Change it to switch it on again.</Notice>}
      {hook.is_on && hook.failing_since && (
        <Notice kind="wrong">
          Nothing was taken since {moment(hook.failing_since, brand.time_zone)}
          {hook.rests_until && `; it is tried again at ${moment(hook.rests_until, brand.time_zone).slice(-5)}`}. After
          three days it is switched off.
        </Notice>
      )}
      {wrong && <Notice kind="wrong">{wrong.message}</Notice>}
      <History hook={hook} />
      {isChanging && <HookSheet hook={hook} kinds={kinds} account={account} onClose={() => setChanging(false)} />}
      {renew.data && (
        <SecretSheet title={`A new secret for ${hook.name}`} secret={renew.data.secret} onClose={() => renew.reset()} />
      )}
      <Sheet form="dialog" isOpen={isLeaving} title={`Take ${hook.name} away?`} onClose={() => setLeaving(false)}>
        <p>It is told nothing more, and what it was told is forgotten here.</p>
        {remove.error && <Notice kind="wrong">{remove.error.message}</Notice>}
        <Button
          kind="danger"
          className="mt-4 self-start"
          isBusy={remove.isPending}
          onClick={() => remove.mutate(hook.id, { onSuccess: () => setLeaving(false) })}
        >
          Take it away
        </Button>
      </Sheet>
      {dialog}
    </section>
  );
}

function History({ hook }: { hook: WebHook }) {
  const { brand } = useBrand();
  const found = useDeliveries(brand.slug, hook.id);
  const rows = found.data?.pages.flatMap((page) => page.deliveries) ?? [];
  if (found.error) return <Failed error={found.error} onRetry={() => found.refetch()} />;
  if (found.isPending) return <Loading what="Loading what it was told" lines={4} />;
  if (rows.length === 0)
    return (
      <Empty title="It was told nothing yet">
        Each event stands here for a month, with what was sent and what came back. Try it sends one at once.
      </Empty>
    );
  return (
    <>
      <ul className="mt-2" aria-label="What it was told">
        {rows.map((one) => (
          <Row key={one.id} hook={hook} one={one} />
        ))}
      </ul>
      {found.hasNextPage && (
        <Button className="mt-3" isBusy={found.isFetchingNextPage} onClick={() => found.fetchNextPage()}>
          Earlier ones
        </Button>
      )}
    </>
  );
}

function Row({ hook, one }: { hook: WebHook; one: Delivery }) {
  const { brand } = useBrand();
  const [isOpen, setOpen] = useState(false);
  const again = useSendAgain(brand.slug, hook.id);
  const { tone, words } = became(one, hook);
  const answer = one.error || (one.status ? `${one.status} after ${one.took_ms} ms` : "");
  return (
    <li className="rowline">
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        className="grid w-full grid-cols-[130px_170px_150px_minmax(0,1fr)] items-baseline gap-x-3 py-1.5 text-left hover:bg-panel"
      >
        <span className="label">{moment(one.at, brand.time_zone)}</span>
        <code className="truncate text-[12px]">{one.kind}</code>
        <StateWord tone={tone}>{words}</StateWord>
        <span className="label min-w-0">
          <Cut>{answer}</Cut>
        </span>
      </button>
      {isOpen && (
        <div className="mb-3 border-l-2 border-rule pl-3">
          <p className="label">
            Number <code>{one.number}</code>
            {one.tried_at && `; tried ${plural(one.attempts, "time")}, last ${moment(one.tried_at, brand.time_zone)}`}
            {one.next_at && one.state === "waiting" && `; next ${moment(one.next_at, brand.time_zone)}`}
          </p>
          <pre className="my-1 max-h-72 overflow-auto bg-paper p-2 text-[12px] break-words whitespace-pre-wrap">
            {pretty(one.body)}
          </pre>
          {again.error && <Notice kind="wrong">{again.error.message}</Notice>}
          <Button kind="quiet" isBusy={again.isPending} disabled={!hook.is_on} onClick={() => again.mutate(one.id)}>
            Send it again
          </Button>
        </div>
      )}
    </li>
  );
}

/** The same with a line for each value; as it is where it is none. */
function pretty(body: string): string {
  try {
    return JSON.stringify(JSON.parse(body), null, 2);
  } catch {
    return body;
  }
}
