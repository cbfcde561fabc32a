import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

export type Option = { value: string; label: ReactNode; hint?: string };
type Props = {
  label: string;
  value: string;
  options: Option[];
  onChoose: (value: string) => void;
  children: ReactNode;
  className?: string;
};

/** A part of a sentence that opens its choices. */
export function Choice({ label, value, options, onChoose, children, className = "" }: Props) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={label}
        className={`h-6 font-semibold underline decoration-dashed decoration-rule-strong underline-offset-4 hover:text-berry hover:decoration-berry ${className}`}
      >
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="z-50 max-h-[60vh] min-w-44 overflow-y-auto border border-rule-strong bg-panel py-1 text-ink shadow-xl"
        >
          <DropdownMenu.RadioGroup value={value} onValueChange={onChoose}>
            {options.map((option) => (
              <DropdownMenu.RadioItem
                key={option.value}
                value={option.value}
                className="flex cursor-pointer items-baseline gap-2 px-3 py-1 outline-none data-[highlighted]:bg-wash data-[state=checked]:font-semibold"
              >
                <span className="w-3 text-berry">{option.value === value ? "•" : ""}</span>
                <span className="flex-1">{option.label}</span>
                {option.hint && <span className="label">{option.hint}</span>}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
