import { CalendarDays } from "lucide-react";
import { Popover } from "radix-ui";
import { lazy, Suspense, useState } from "react";
import { type Day, fullDay, readDay } from "../lib/days";
import { type FieldProps, inputLook } from "./Field";

const Calendar = lazy(() => import("./Calendar").then((m) => ({ default: m.Calendar })));

type Props = {
  value: Day | "";
  onChange: (day: Day | "") => void;
  today: Day;
  "aria-label"?: string;
  disabled?: boolean;
} & Partial<FieldProps>;

/** A day, typed as one writes it or picked from a month. What is no day stays as it was typed, and is said. */
export function DateField({ value, onChange, today, className = inputLook, disabled, ...rest }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const [isOpen, setOpen] = useState(false);
  const isWrong = typed !== null && typed !== "" && readDay(typed, today) === null;
  return (
    <span className="relative flex min-w-0">
      <input
        {...rest}
        type="text"
        autoComplete="off"
        placeholder="27 Nov 2026"
        disabled={disabled}
        aria-invalid={isWrong || rest["aria-invalid"] || undefined}
        title={isWrong ? "There is no such day. Write it like 27 Nov 2026." : undefined}
        className={`${className} pr-8`}
        value={typed ?? (value ? fullDay(value) : "")}
        onChange={(event) => {
          setTyped(event.target.value);
          const day = event.target.value ? readDay(event.target.value, today) : "";
          // Half of a day is none yet: only what names its year is taken while one types.
          if (day === "" || (day && /\d{4}/.test(event.target.value))) onChange(day);
        }}
        onBlur={() => {
          rest.onBlur?.();
          const day = typed ? readDay(typed, today) : null;
          if (day && day !== value) onChange(day);
          if (!isWrong) setTyped(null);
        }}
      />
      <Popover.Root open={isOpen} onOpenChange={setOpen}>
        <Popover.Trigger
          type="button"
          disabled={disabled}
          aria-label="Open the month"
          className="absolute inset-y-0 right-0 flex w-8 items-center justify-center text-muted hover:text-berry disabled:opacity-50"
        >
          <CalendarDays size={15} aria-hidden="true" />
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={4}
            className="z-[70] border border-rule-strong bg-panel p-2 text-ink shadow-xl"
          >
            <Suspense fallback={<div className="h-[250px] w-[232px]" />}>
              <Calendar
                value={value || null}
                today={today}
                onChoose={(day) => {
                  setTyped(null);
                  setOpen(false);
                  onChange(day);
                }}
              />
            </Suspense>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {isWrong && (
        <span role="alert" className="sr-only">
          There is no such day. Write it like 27 Nov 2026.
        </span>
      )}
    </span>
  );
}
