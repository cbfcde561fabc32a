import { useState } from "react";
import { useForm } from "react-hook-form";
import type { Schemas } from "../../api/client";
import { moment } from "../../lib/days";
import { plural } from "../../lib/format";
import { knowsPasskeys } from "../../lib/passkeys";
import { Button } from "../../ui/Button";
import { CopyButton } from "../../ui/CopyButton";
import { Cut } from "../../ui/Cut";
import { Entry, Form } from "../../ui/Form";
import { Sheet } from "../../ui/Sheet";
import { useToast } from "../../ui/Toast";
import {
  type Account,
  addPasskey,
  beginTotp,
  makeRecoveryCodes,
  removePasskey,
  removeTotp,
  useConfirmTotp,
  useDone,
} from "./queries";
import { NotSure } from "./useSure";
import { useZone } from "./useZone";
import type { Surely } from "./YouPage";

const row =
  "rowline grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 gap-y-1 py-2 [&>button]:justify-self-start";

/** What lets one in besides a password: passkeys, codes of a device, and codes for when the device is gone. */
export function Devices({ account, surely }: { account: Account; surely: Surely }) {
  const [secret, setSecret] = useState<Schemas["Totp"] | null>(null);
  const [codes, setCodes] = useState<string[] | null>(null);
  const [isNaming, setNaming] = useState(false);
  const say = useToast();
  const told = { onError: (error: Error) => !(error instanceof NotSure) && say(error.message, "wrong") };
  const begin = useDone(() => surely(beginTotp));
  const remove = useDone(() => surely(removeTotp));
  const renew = useDone(() => surely(makeRecoveryCodes));
  const takeAway = useDone((pk: number) => surely(() => removePasskey(pk)));
  const zone = useZone();
  const has = account.has_codes || account.passkeys.length > 0;
  return (
    <div className="mt-2">
      <div className={row}>
        <div>
          <h3 className="text-[15px]">Passkeys</h3>
          <p className="text-muted">
            {account.takes_passkeys
              ? "Your device shows that it is you, by finger, face or its own code. No password is asked for, and none can be given away."
              : "They need an address with a name and TLS, which this installation does not have."}
          </p>
        </div>
        {account.takes_passkeys && knowsPasskeys() && <Button onClick={() => setNaming(true)}>Add a passkey</Button>}
      </div>
      {account.passkeys.map((one) => (
        <div key={one.id} className={`${row} pl-4`}>
          <span className="min-w-0">
            <Cut>{one.name}</Cut>
            <span className="label ml-2">
              since {moment(one.made_at, zone)}
              {one.used_at ? `, used ${moment(one.used_at, zone)}` : ", not used yet"}
            </span>
          </span>
          <Button kind="quiet" isBusy={takeAway.isPending} onClick={() => takeAway.mutate(one.id, told)}>
            Take away<span className="sr-only"> {one.name}</span>
          </Button>
        </div>
      ))}
      <div className={row}>
        <div>
          <h3 className="text-[15px]">Codes of a device{account.has_codes && ": asked for"}</h3>
          <p className="text-muted">
            After your password, six digits that an application on your telephone shows, new every half minute.
          </p>
        </div>
        {account.has_codes ? (
          <Button isBusy={remove.isPending} onClick={() => remove.mutate(undefined, told)}>
            Ask for them no more
          </Button>
        ) : (
          <Button isBusy={begin.isPending} onClick={() => begin.mutate(undefined, { ...told, onSuccess: setSecret })}>
            Set up codes
          </Button>
        )}
      </div>
      {has && (
        <div className={row}>
          <div>
            <h3 className="text-[15px]">{plural(account.recovery_codes_left, "recovery code")} left</h3>
            <p className="text-muted">For when your device is lost: each lets you in once. Keep them away from it.</p>
          </div>
          <Button
            isBusy={renew.isPending}
            onClick={() => renew.mutate(undefined, { ...told, onSuccess: (made) => setCodes(made.codes) })}
          >
            Make ten new ones
          </Button>
        </div>
      )}
      {secret && (
        <TotpSheet
          secret={secret}
          surely={surely}
          onClose={() => setSecret(null)}
          onDone={(made) => {
            setSecret(null);
            setCodes(made);
          }}
        />
      )}
      {codes && <CodesSheet codes={codes} onClose={() => setCodes(null)} />}
      {isNaming && <PasskeySheet surely={surely} onClose={() => setNaming(false)} />}
    </div>
  );
}

type TotpProps = {
  secret: Schemas["Totp"];
  surely: Surely;
  onClose: () => void;
  onDone: (codes: string[]) => void;
};

/** The secret as a picture and as signs, and the first code that shows that the device has it. */
function TotpSheet({ secret, surely, onClose, onDone }: TotpProps) {
  const form = useForm({ defaultValues: { code: "" } });
  const confirm = useConfirmTotp();
  const [error, setError] = useState<Error | null>(null);
  return (
    <Sheet isOpen form="dialog" title="Codes of a device" onClose={onClose}>
      <p>Let the application that makes codes on your telephone read this picture.</p>
      <div className="my-3 flex flex-wrap items-center gap-4">
        <img src={secret.picture} alt="The secret as a QR code" width="180" height="180" className="bg-white" />
        <div className="min-w-0 flex-1">
          <p className="label">Or type it there:</p>
          <code className="break-all">{secret.secret.match(/.{1,4}/g)?.join(" ")}</code>
          <p className="mt-1">
            <CopyButton text={secret.secret} said="The secret is copied." />
          </p>
        </div>
      </div>
      <Form
        form={form}
        className="mt-2 flex flex-col gap-3"
        error={error instanceof NotSure ? null : error}
        onSubmit={({ code }) => {
          setError(null);
          surely(() => confirm.mutateAsync(code)).then((made) => onDone(made.codes), setError);
        }}
      >
        <Entry form={form} name="code" label="The code it shows now">
          {(field) => <input {...field} inputMode="numeric" autoComplete="one-time-code" maxLength={10} />}
        </Entry>
        <Button
          kind="main"
          type="submit"
          className="self-start"
          isBusy={confirm.isPending}
          disabled={form.watch("code").trim() === ""}
        >
          Ask for codes from now on
        </Button>
      </Form>
    </Sheet>
  );
}

/** Codes that are told once: to be copied, kept as a file, or printed. */
function CodesSheet({ codes, onClose }: { codes: string[]; onClose: () => void }) {
  const text = codes.join("\n");
  return (
    <Sheet isOpen form="dialog" title="Your recovery codes" onClose={onClose}>
      <p>
        Each lets you in once when your device is not at hand. They are shown now and never again; those you had before
        are worth nothing any more.
      </p>
      <ul className="my-3 grid grid-cols-1 gap-x-6 gap-y-1 font-mono text-[13px] tabular-nums">
        {codes.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <div className="flex items-center gap-3">
        <CopyButton text={text} said="The codes are copied." />
        <a
          href={`data:text/plain;charset=utf-8,${encodeURIComponent(`${text}\n`)}`}
          download="dakika-recovery-codes.txt"
          className="under hover:text-berry"
        >
          Keep them as a file
        </a>
        <Button kind="main" className="ml-auto" onClick={onClose}>
          I have them
        </Button>
      </div>
    </Sheet>
  );
}

function PasskeySheet({ surely, onClose }: { surely: Surely; onClose: () => void }) {
  const form = useForm({ defaultValues: { name: "" } });
  const say = useToast();
  const add = useDone((name: string) => surely(() => addPasskey(name)));
  return (
    <Sheet isOpen form="dialog" title="A new passkey" onClose={onClose}>
      <Form
        form={form}
        className="mt-2 flex flex-col gap-3"
        error={add.error instanceof NotSure ? null : add.error}
        onSubmit={({ name }) =>
          add.mutate(name, {
            onSuccess: () => {
              say("The passkey lets you in from now on.");
              onClose();
            },
          })
        }
      >
        <Entry
          form={form}
          name="name"
          label="What you call it"
          help="So that you know it again: the desk, the telephone, the key on the ring"
        >
          {(field) => <input {...field} maxLength={80} />}
        </Entry>
        <Button kind="main" type="submit" className="self-start" isBusy={add.isPending}>
          Ask my device
        </Button>
      </Form>
    </Sheet>
  );
}
