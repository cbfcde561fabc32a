import { useCallback, useEffect, useState } from "react";
import { type DefaultValues, type FieldValues, type UseFormReturn, useForm } from "react-hook-form";

/**
 * What is being typed into a form, kept in this tab over a reload until it is taken or left. `name` says whose it is and
 * of what. Returns the value, a way to change it, and one to begin anew from what was taken.
 */
export function useTyped<T extends object>(name: string, initial: T) {
  const [first, setFirst] = useState(initial);
  const [value, setValue] = useState<T>(() => ({ ...initial, ...read(name) }));
  useKept(name, value, first);
  const begin = useCallback((next: T) => {
    setFirst(next);
    setValue(next);
  }, []);
  return [value, setValue, begin] as const;
}

/** The same for a form: what is typed into it outlives a reload. */
export function useTypedForm<T extends FieldValues>(
  name: string,
  initial: T,
): { form: UseFormReturn<T>; begin: (next: T) => void } {
  const [first, setFirst] = useState(initial);
  const [kept] = useState(() => ({ ...initial, ...read(name) }));
  const form = useForm<T>({ defaultValues: kept as DefaultValues<T> });
  useKept(name, form.watch(), first);
  const { reset } = form;
  const begin = useCallback(
    (next: T) => {
      setFirst(next);
      reset(next);
    },
    [reset],
  );
  return { form, begin };
}

function useKept(name: string, value: object, first: object) {
  const [now, before] = [JSON.stringify(value), JSON.stringify(first)];
  useEffect(() => {
    try {
      if (now === before) sessionStorage.removeItem(name);
      else sessionStorage.setItem(name, now);
    } catch {
      // Full, or forbidden by the person's settings: it is typed for this page alone.
    }
  }, [name, now, before]);
}

function read(name: string): object | null {
  try {
    const kept: unknown = JSON.parse(sessionStorage.getItem(name) ?? "null");
    return typeof kept === "object" && !Array.isArray(kept) ? kept : null;
  } catch {
    return null;
  }
}
