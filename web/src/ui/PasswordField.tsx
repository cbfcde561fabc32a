import { useState } from "react";
import { Field } from "./Field";

const ADVICE = "At least 15 characters. Four words that do not belong together are easy to keep and hard to guess.";
type Props = {
  label?: string;
  value: string;
  onChange: (value: string) => void;
  error?: string;
  /** A new one is proposed by the browser and advised on; a known one is filled in by it. */
  isNew?: boolean;
};

/** A password that can be looked at while it is typed, and pasted (NIST SP 800-63B-4, 3.1.1.2). */
export function PasswordField({ label = "Password", value, onChange, error, isNew }: Props) {
  const [isShown, setShown] = useState(false);
  return (
    <Field label={label} error={error} help={isNew ? ADVICE : undefined}>
      {(props) => (
        <span className="relative block">
          <input
            {...props}
            className={`${props.className} pr-14`}
            type={isShown ? "text" : "password"}
            autoComplete={isNew ? "new-password" : "current-password"}
            autoCapitalize="none"
            spellCheck={false}
            maxLength={200}
            value={value}
            onChange={(e) => onChange(e.target.value)}
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
    </Field>
  );
}
