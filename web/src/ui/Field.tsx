import { type ReactNode, type Ref, useId } from "react";

type Props = {
  label: string;
  help?: ReactNode;
  error?: string;
  children: (props: FieldProps) => ReactNode;
};

/** What a field hands to its control: whose label it has, what is said of it, and a form's hold on it where there is one. */
export type FieldProps = {
  id: string;
  "aria-describedby"?: string;
  "aria-invalid"?: boolean;
  className: string;
  name?: string;
  onBlur?: () => void;
  // biome-ignore lint/suspicious/noExplicitAny: inputs, selects and areas alike
  ref?: Ref<any>;
};

export const inputLook =
  "h-8 w-full rounded-[2px] border border-rule-strong bg-panel px-2 text-ink placeholder:text-muted aria-invalid:border-down";

/** Label above, help beneath, error beside what it is about. */
export function Field({ label, help, error, children }: Props) {
  const id = useId();
  const note = help || error ? `${id}-note` : undefined;
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="text-[13px] font-semibold">
        {label}
      </label>
      {children({ id, "aria-describedby": note, "aria-invalid": error ? true : undefined, className: inputLook })}
      {note && (
        <div id={note} className="text-[12.5px]">
          {error ? (
            <span className="text-down" role="alert">
              {error}
            </span>
          ) : (
            <span className="text-muted">{help}</span>
          )}
        </div>
      )}
    </div>
  );
}
