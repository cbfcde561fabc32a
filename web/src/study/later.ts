/** What a screen can do without for a moment (names to choose from, counts, plans ahead) asks after what it shows. */

import { useIsFetching } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";

/** Keys of queries that wait. A screen that shows one of these waits no longer than for the rest of itself. */
const WAIT = new Set(["sources", "tags", "campaigns", "plan", "metrics", "findings", "notifications", "kept studies"]);
const QUIET_MS = 40;
const LONGEST_MS = 1500;

// An address that names a profile, tag or campaign cannot wait to say which.
let isLater = typeof window !== "undefined" && /[?&](profile|tag|campaign)=/.test(window.location.search);
const told = new Set<() => void>();
const subscribe = (tell: () => void) => {
  told.add(tell);
  return () => void told.delete(tell);
};
const now = () => isLater;

/** Whether the first screen has what it shows; from then on nothing waits. */
export function useLater(): boolean {
  return useSyncExternalStore(subscribe, now);
}

/** Watches for the moment; stands once, in the shell. */
export function useWatchForLater(): void {
  const busy = useIsFetching({ predicate: (query) => !WAIT.has(String(query.queryKey[0])) }) > 0;
  useEffect(() => {
    if (isLater) return;
    const timer = setTimeout(
      () => {
        isLater = true;
        for (const tell of told) tell();
      },
      busy ? LONGEST_MS : QUIET_MS,
    );
    return () => clearTimeout(timer);
  }, [busy]);
}
