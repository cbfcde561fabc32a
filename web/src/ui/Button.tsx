import type { ButtonHTMLAttributes } from "react";

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  kind?: "main" | "plain" | "quiet" | "danger";
  isBusy?: boolean;
};

const LOOK = {
  main: "bg-berry text-on-berry font-semibold px-3 h-8 hover:opacity-90",
  plain: "border border-rule-strong bg-panel px-3 h-8 hover:border-ink",
  quiet: "under -ml-1 px-1 h-7 hover:text-berry",
  danger: "border border-down text-down px-3 h-8",
};

export function Button({ kind = "plain", isBusy, className = "", children, ...rest }: Props) {
  return (
    <button
      type="button"
      {...rest}
      disabled={rest.disabled || isBusy}
      aria-busy={isBusy || undefined}
      className={`inline-flex items-center gap-1.5 rounded-[2px] whitespace-nowrap disabled:opacity-50 ${LOOK[kind]} ${className}`}
    >
      {children}
    </button>
  );
}
