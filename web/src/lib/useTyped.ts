import { useCallback, useEffect, useState } from "react";

/**
 * What is being typed into a form, kept in this tab over a reload until it is taken or left. `name` says whose it is and
 * of what. Returns the value, a way to change it, and one to begin anew from what was taken.
 */
export function useTyped<T extends object>(name: string, initial: T) {
  const [first, setFirst] = useState(initial);
  const [value, setValue] = useState<T>(() => ({ ...initial, ...read(name) }));
  useEffect(() => {
    try {
      if (JSON.stringify(value) === JSON.stringify(first)) sessionStorage.removeItem(name);
      else sessionStorage.setItem(name, JSON.stringify(value));
    } catch {
      // Full, or forbidden by the person's settings: it is typed for this page alone.
    }
  }, [name, value, first]);
  const begin = useCallback((next: T) => {
    setFirst(next);
    setValue(next);
  }, []);
  return [value, setValue, begin] as const;
}

function read(name: string): object | null {
  try {
    const kept: unknown = JSON.parse(sessionStorage.getItem(name) ?? "null");
    return typeof kept === "object" && !Array.isArray(kept) ? kept : null;
  } catch {
    return null;
  }
}
