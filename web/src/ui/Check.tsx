import type { ReactNode } from "react";

type Props = { isOn: boolean; onChange: (isOn: boolean) => void; help?: ReactNode; children: ReactNode };

/** A box to be ticked with its words, and beneath them what it means. */
export function Check({ isOn, onChange, help, children }: Props) {
  return (
    <label className="flex items-start gap-2">
      <input
        type="checkbox"
        checked={isOn}
        onChange={(e) => onChange(e.target.checked)}
        className="mt-0.5 h-4 w-4 shrink-0 accent-(--berry)"
      />
      <span>
        {children}
        {help && <span className="label block">{help}</span>}
      </span>
    </label>
  );
}
