import { type ReactNode, useCallback, useRef, useState } from "react";
import { ProblemError } from "../../api/client";
import { knowsPasskeys } from "../../lib/passkeys";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { PasswordField } from "../../ui/PasswordField";
import { Sheet } from "../../ui/Sheet";
import { Notice } from "../../ui/States";
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
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const confirm = useConfirm();
  const problem = confirm.error instanceof ProblemError ? confirm.error : null;
  return (
    <Sheet isOpen form="dialog" title="Is it you?" onClose={asking.leave}>
      <p className="mb-3 text-muted">
        What lets you in is changed only by you: show it once more. It holds for ten minutes.
      </p>
      {confirm.error && !problem?.fields.password && <Notice kind="wrong">{confirm.error.message}</Notice>}
      <form
        className="mt-3 flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          confirm.mutate({ password, code }, { onSuccess: asking.done });
        }}
      >
        <PasswordField value={password} onChange={setPassword} error={problem?.fields.password} />
        {account.has_codes && (
          <Field label="The code of your device" help="Or one of your recovery codes">
            {(props) => (
              <input
                {...props}
                autoComplete="one-time-code"
                maxLength={60}
                value={code}
                onChange={(e) => setCode(e.target.value)}
              />
            )}
          </Field>
        )}
        <div className="flex gap-3">
          <Button kind="main" type="submit" isBusy={confirm.isPending} disabled={password === ""}>
            It is me
          </Button>
          {account.passkeys.length > 0 && knowsPasskeys() && (
            <Button isBusy={confirm.isPending} onClick={() => confirm.mutate("passkey", { onSuccess: asking.done })}>
              With a passkey
            </Button>
          )}
        </div>
      </form>
    </Sheet>
  );
}
