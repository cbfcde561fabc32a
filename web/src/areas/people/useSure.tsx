import { type ReactNode, useCallback, useRef, useState } from "react";
import { useForm } from "react-hook-form";
import { ProblemError } from "../../api/client";
import { knowsPasskeys } from "../../lib/passkeys";
import { Button } from "../../ui/Button";
import { Entry, Form } from "../../ui/Form";
import { PasswordField } from "../../ui/PasswordField";
import { Sheet } from "../../ui/Sheet";
import { type Account, useConfirm } from "./queries";

/** Thrown where somebody did not show that it is they. */
export class NotSure extends Error {
  constructor() {
    super("Nothing was changed.");
  }
}

type Asking = { done: () => void; leave: () => void };

/**
 * Does something that the server wants to be sure of: when it asks who is there, the dialog does, and what was meant to
 * be done is done then. Returns the way to do it, and the dialog to be shown.
 */
export function useSure(account: Account): { surely: <T>(act: () => Promise<T>) => Promise<T>; dialog: ReactNode } {
  const [asking, setAsking] = useState<Asking | null>(null);
  const last = useRef<Asking | null>(null);
  const surely = useCallback(async <T,>(act: () => Promise<T>): Promise<T> => {
    try {
      return await act();
    } catch (error) {
      if (!(error instanceof ProblemError && error.kind === "confirm_first")) throw error;
    }
    last.current?.leave();
    await new Promise<void>((done, leave) => {
      last.current = { done, leave: () => leave(new NotSure()) };
      setAsking(last.current);
    }).finally(() => {
      last.current = null;
      setAsking(null);
    });
    return act();
  }, []);
  return { surely, dialog: asking && <Dialog account={account} asking={asking} /> };
}

function Dialog({ account, asking }: { account: Account; asking: Asking }) {
  const form = useForm({ defaultValues: { password: "", code: "" } });
  const confirm = useConfirm();
  return (
    <Sheet isOpen form="dialog" title="Is it you?" onClose={asking.leave}>
      <p className="mb-3 text-muted">
        What lets you in is changed only by you: show it once more. It holds for ten minutes.
      </p>
      <Form form={form} error={confirm.error} onSubmit={(given) => confirm.mutate(given, { onSuccess: asking.done })}>
        <PasswordField form={form} name="password" />
        {account.has_codes && (
          <Entry form={form} name="code" label="The code of your device" help="Or one of your recovery codes">
            {(field) => <input {...field} autoComplete="one-time-code" maxLength={60} />}
          </Entry>
        )}
        <div className="flex gap-3">
          <Button kind="main" type="submit" isBusy={confirm.isPending} disabled={form.watch("password") === ""}>
            It is me
          </Button>
          {account.passkeys.length > 0 && knowsPasskeys() && (
            <Button isBusy={confirm.isPending} onClick={() => confirm.mutate("passkey", { onSuccess: asking.done })}>
              With a passkey
            </Button>
          )}
        </div>
      </Form>
    </Sheet>
  );
}
