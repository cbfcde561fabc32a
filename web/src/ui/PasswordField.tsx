import { useState } from "react";
import type { FieldPath, FieldValues, UseFormReturn } from "react-hook-form";
import { Entry } from "./Form";

const ADVICE = "At least 15 characters. Four words that do not belong together are easy to keep and hard to guess.";
type Props<T extends FieldValues> = {
  form: UseFormReturn<T>;
  name: FieldPath<T>;
  label?: string;
  /** A new one is proposed by the browser and advised on; a known one is filled in by it. */
  isNew?: boolean;
};

/** A password that can be looked at while it is typed, and pasted (NIST SP 800-63B-4, 3.1.1.2). */
export function PasswordField<T extends FieldValues>({ form, name, label = "Password", isNew }: Props<T>) {
  const [isShown, setShown] = useState(false);
  return (
    <Entry form={form} name={name} label={label} help={isNew ? ADVICE : undefined}>
      {(field) => (
        <span className="relative block">
          <input
            {...field}
            className={`${field.className} pr-14`}
            type={isShown ? "text" : "password"}
            autoComplete={isNew ? "new-password" : "current-password"}
            autoCapitalize="none"
            spellCheck={false}
            maxLength={200}
          />
          <button
            type="button"
            aria-label={isShown ? "Hide what is typed" : "Show what is typed"}
            aria-pressed={isShown}
            onClick={() => setShown(!isShown)}
            className="label under absolute top-1 right-2 h-6 hover:text-berry"
          >
            {isShown ? "hide" : "show"}
          </button>
        </span>
      )}
    </Entry>
  );
}
