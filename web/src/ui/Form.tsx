import { type ReactNode, useEffect } from "react";
import {
  type Control,
  type FieldPath,
  type FieldPathValue,
  type FieldValues,
  get,
  type UseFormReturn,
  useController,
} from "react-hook-form";
import { Check } from "./Check";
import { Field, type FieldProps } from "./Field";
import { Notice } from "./States";

/** What the server said against what was sent: a sentence, and sentences by field where it knows which. */
type Said = (Error & { fields?: Record<string, string> }) | null | undefined;

type FormProps<T extends FieldValues> = {
  form: UseFormReturn<T>;
  onSubmit: (values: T) => void;
  /** What the last try came to; null alone where every field says it by itself. */
  error: Said;
  /** Names whose sentence stands beside what they are about already, by whoever draws it. */
  saidElsewhere?: readonly string[];
  className?: string;
  "aria-label"?: string;
  children: ReactNode;
};

const toldOf = <T extends FieldValues>(error: Said) => Object.entries(error?.fields ?? {}) as [FieldPath<T>, string][];

/** Whether a form shows a field of this name, beside which something can be said. */
const isAsked = <T extends FieldValues>(control: Control<T>, name: FieldPath<T>) =>
  (get(control._fields, name) as { _f?: object } | undefined)?._f !== undefined;

/**
 * A form by react-hook-form. What the server says of a field stands beside it until one types there, and the first such
 * field has the focus; what it says of none stands on top.
 */
export function Form<T extends FieldValues>({
  form,
  onSubmit,
  error,
  saidElsewhere = [],
  className,
  children,
  ...rest
}: FormProps<T>) {
  const { control, setError, setFocus, clearErrors, handleSubmit } = form;
  useEffect(() => {
    const own = toldOf<T>(error).filter(([name]) => isAsked(control, name));
    for (const [name, message] of own) setError(name, { type: "server", message });
    if (own[0]) setFocus(own[0][0]);
  }, [error, control, setError, setFocus]);
  const told = toldOf<T>(error);
  const others = told
    .filter(([name]) => !isAsked(control, name) && !saidElsewhere.includes(name))
    .map(([, message]) => message);
  return (
    <form
      {...rest}
      className={className ?? "flex flex-col gap-4"}
      onSubmit={(event) => {
        // It may stand within another one, if only by who made it: that one is not sent with it.
        event.stopPropagation();
        // What was said of the last try says nothing of this one, nor keeps it from being sent.
        clearErrors();
        void handleSubmit(onSubmit)(event);
      }}
    >
      {error && (told.length === 0 || others.length > 0) && (
        <div className="w-full">
          <Notice kind="wrong">{others.join(" ") || error.message}</Notice>
        </div>
      )}
      {children}
    </form>
  );
}

type Named<T extends FieldValues, N extends FieldPath<T>> = { form: UseFormReturn<T>; name: N };

type EntryProps<T extends FieldValues, N extends FieldPath<T>> = Named<T, N> & {
  label: string;
  help?: ReactNode;
  /** What the form itself finds wrong, before anything is sent. */
  error?: string;
  children: (field: FieldProps & { value: FieldPathValue<T, N>; onChange: (next: unknown) => void }) => ReactNode;
};

/** One field of a form: label, help, what is wrong, and the control with its value. `onChange` takes events and values. */
export function Entry<T extends FieldValues, N extends FieldPath<T>>({
  form,
  name,
  error,
  children,
  ...rest
}: EntryProps<T, N>) {
  const { field, fieldState } = useController({ control: form.control, name });
  return (
    <Field {...rest} error={fieldState.error?.message ?? error}>
      {(props) => children({ ...props, ...field })}
    </Field>
  );
}

type CheckEntryProps<T extends FieldValues, N extends FieldPath<T>> = Named<T, N> & {
  help?: ReactNode;
  children: ReactNode;
};

/** A box of a form to be ticked. */
export function CheckEntry<T extends FieldValues, N extends FieldPath<T>>({
  form,
  name,
  ...rest
}: CheckEntryProps<T, N>) {
  const { field } = useController({ control: form.control, name });
  return <Check {...rest} isOn={field.value} onChange={field.onChange} />;
}

type Option<V> = { value: V; label: ReactNode; help?: ReactNode };
type ChecksEntryProps<T extends FieldValues, N extends FieldPath<T>, V> = Named<T, N> & {
  options: readonly Option<V>[];
};

/** Boxes to be ticked, whose values are a list in the form. What is wrong with it stands beneath. */
export function ChecksEntry<T extends FieldValues, N extends FieldPath<T>, V extends string | number>({
  form,
  name,
  options,
}: ChecksEntryProps<T, N, V>) {
  const { field, fieldState } = useController({ control: form.control, name });
  const chosen: V[] = field.value;
  return (
    <>
      {options.map(({ value, label, help }) => (
        <Check
          key={value}
          isOn={chosen.includes(value)}
          onChange={(on) => field.onChange(on ? [...chosen, value] : chosen.filter((one) => one !== value))}
          help={help}
        >
          {label}
        </Check>
      ))}
      {fieldState.error?.message && <Notice kind="wrong">{fieldState.error.message}</Notice>}
    </>
  );
}
