import { useState } from "react";
import { useForm } from "react-hook-form";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { Check } from "../../../ui/Check";
import { CopyButton } from "../../../ui/CopyButton";
import { CheckEntry, Entry, Form } from "../../../ui/Form";
import { Sheet } from "../../../ui/Sheet";
import { Notice } from "../../../ui/States";
import type { Account } from "../queries";
import { NotSure, useSure } from "../useSure";
import { changeWebhook, type EventKind, makeWebhook, useHookDone, type WebHook } from "./queries";
import { byAbout } from "./rules";

type Props = { hook?: WebHook; kinds: EventKind[]; account: Account; onClose: () => void };

/** An address to be told, made or changed; a new one's secret is shown once. */
export function HookSheet({ hook, kinds, account, onClose }: Props) {
  const { brand } = useBrand();
  const { surely, dialog } = useSure(account);
  const form = useForm({
    defaultValues: { name: hook?.name ?? "", address: hook?.address ?? "", isOn: hook?.is_on ?? true },
  });
  const { name, address, isOn } = form.watch();
  const [chosen, setChosen] = useState<string[]>(hook?.kinds ?? []);
  const keep = useHookDone(brand.slug, () =>
    surely(async () => {
      const body = { name, address, kinds: chosen };
      if (hook) {
        await changeWebhook(brand.slug, hook.id, { ...body, is_on: isOn });
        return null;
      }
      return makeWebhook(brand.slug, body);
    }),
  );
  const title = hook ? hook.name : "Tell another program";
  if (keep.data) return <SecretSheet title={title} secret={keep.data.secret} onClose={onClose} />;
  return (
    <Sheet isOpen title={title} onClose={onClose}>
      <Form
        form={form}
        error={keep.error instanceof NotSure ? null : keep.error}
        className="mt-1 flex flex-col gap-4"
        onSubmit={() => {
          keep.mutate(undefined, { onSuccess: (made) => made ?? onClose() });
        }}
      >
        <Entry form={form} name="name" label="Whom it tells">
          {(field) => <input {...field} maxLength={80} />}
        </Entry>
        <Entry form={form} name="address" label="Its address" help="It begins with https://">
          {(field) => <input {...field} inputMode="url" autoComplete="off" spellCheck={false} maxLength={2048} />}
        </Entry>
        {hook && (
          <CheckEntry
            form={form}
            name="isOn"
            help={hook.off_because || "Off, it is told nothing, and nothing is kept for it."}
          >
            It is told
          </CheckEntry>
        )}
        <fieldset className="flex flex-col gap-3">
          <legend className="mb-1 text-[13px] font-semibold">It is told when</legend>
          {byAbout(kinds).map(([about, some]) => (
            <div key={about} className="flex flex-col gap-1.5">
              {some.map((kind) => (
                <Check
                  key={kind.name}
                  isOn={chosen.includes(kind.name)}
                  onChange={(is) => setChosen(is ? [...chosen, kind.name] : chosen.filter((one) => one !== kind.name))}
                  help={<code>{kind.name}</code>}
                >
                  {kind.words}
                </Check>
              ))}
            </div>
          ))}
        </fieldset>
        <Button kind="main" type="submit" className="self-start" isBusy={keep.isPending}>
          {hook ? "Keep it so" : "Tell it"}
        </Button>
      </Form>
      {dialog}
    </Sheet>
  );
}

/** A secret, shown now and never again. */
export function SecretSheet({ title, secret, onClose }: { title: string; secret: string; onClose: () => void }) {
  return (
    <Sheet isOpen title={title} onClose={onClose}>
      <Notice kind="good">This is its secret. It is shown now and never again.</Notice>
      <p className="my-3 flex items-center gap-2">
        <code className="min-w-0 break-all">{secret}</code>
        <CopyButton text={secret} said="The secret is copied." />
      </p>
      <p className="label">
        The program there checks with it that what comes is from here: the field Signature holds an HMAC-SHA256 of it
        over address and content. <code>examples/dakika_client.py</code> shows how.
      </p>
      <Button kind="main" className="mt-4 self-start" onClick={onClose}>
        I have it
      </Button>
    </Sheet>
  );
}
