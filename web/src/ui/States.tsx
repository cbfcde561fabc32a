import type { ReactNode } from "react";
import { Button } from "./Button";

/** Nothing here yet: what that means and what to do. */
export function Empty({ title, children, action }: { title: string; children?: ReactNode; action?: ReactNode }) {
  return (
    <div className="mx-auto flex max-w-md flex-col items-start gap-2 px-4 py-10">
      <h3 className="text-[17px]">{title}</h3>
      {children && <p className="text-muted">{children}</p>}
      {action}
    </div>
  );
}

/** Something went wrong: what, and a way on. */
export function Failed({ error, onRetry }: { error: Error; onRetry?: () => void }) {
  return (
    <div role="alert" className="mx-auto flex max-w-md flex-col items-start gap-2 px-4 py-10">
      <h3 className="text-[17px]">This could not be shown</h3>
      <p className="text-muted">{error.message}</p>
      {onRetry && <Button onClick={onRetry}>Try again</Button>}
    </div>
  );
}

/** On its way. Quiet, so that a quick answer does not flash. */
export function Loading({ what = "Loading", lines = 6 }: { what?: string; lines?: number }) {
  return (
    <div role="status" aria-label={what} className="late flex flex-col gap-3 p-5">
      {Array.from({ length: lines }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: identical bars
        <div key={i} className="h-4 animate-pulse bg-rule/60" style={{ width: `${90 - ((i * 17) % 45)}%` }} />
      ))}
    </div>
  );
}

/** What stands while its next form is fetched: the same question in another order, paled until it comes. */
export function While({ isOld, children }: { isOld: boolean; children: ReactNode }) {
  return (
    <div
      aria-busy={isOld || undefined}
      className={`flex min-h-0 flex-1 flex-col print:block ${isOld ? "opacity-45" : ""}`}
    >
      {children}
    </div>
  );
}

/** A message above a form: what is wrong, summed up. */
export function Notice({ kind = "note", children }: { kind?: "note" | "wrong" | "good"; children: ReactNode }) {
  const look = { note: "border-rule-strong", wrong: "border-down text-down", good: "border-up text-up" }[kind];
  return (
    <div role={kind === "wrong" ? "alert" : "status"} className={`border-l-2 bg-panel px-3 py-2 ${look}`}>
      {children}
    </div>
  );
}
