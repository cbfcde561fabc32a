/** Whether the session ended while somebody was at work: told by any answer of 401, known to the door. */

import { useSyncExternalStore } from "react";
import { ProblemError } from "../api/client";

let hasEnded = false;
const listeners = new Set<() => void>();

function set(value: boolean) {
  if (hasEnded === value) return;
  hasEnded = value;
  for (const listener of listeners) listener();
}

/** Called with every error of the server. */
export function noteError(error: unknown) {
  if (error instanceof ProblemError && error.status === 401) set(true);
}

export function noteSignedIn() {
  set(false);
}

export function useHasEnded(): boolean {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => hasEnded,
  );
}
