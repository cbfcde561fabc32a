/** The address as a view's memory: read it, and set one part of it. */

import { useCallback } from "react";
import { useSearchParams } from "react-router";

export function useAddress() {
  const [params, setParams] = useSearchParams();
  const set = useCallback(
    (name: string, value: string | null, replace = false) =>
      setParams(
        (old) => {
          const next = new URLSearchParams(old);
          if (value) next.set(name, value);
          else next.delete(name);
          return next;
        },
        { replace },
      ),
    [setParams],
  );
  return { params, set };
}

/** Whether a chart stands as a table: it goes along in the address, so that a colleague sees the same. */
export function useAsTable(): [boolean, (isOn: boolean) => void] {
  const { params, set } = useAddress();
  return [params.get("as") === "table", (isOn) => set("as", isOn ? "table" : null)];
}
