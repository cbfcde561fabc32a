import { useState } from "react";
import { readTime } from "../lib/days";
import { type FieldProps, inputLook } from "./Field";

type Props = {
  value: string;
  onChange: (time: string) => void;
  "aria-label"?: string;
  disabled?: boolean;
} & Partial<FieldProps>;
const DAY = 24 * 60;

/** A time of a 24-hour clock, typed as 19:30, 1930 or 9; the arrow keys move it by a quarter of an hour. */
export function TimeField({ value, onChange, className = inputLook, ...rest }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const isWrong = typed !== null && typed !== "" && readTime(typed) === null;
  const move = (minutes: number) => {
    const [hour = 0, minute = 0] = (readTime(typed ?? value) ?? "12:00").split(":").map(Number);
    const next = (((hour * 60 + minute + minutes) % DAY) + DAY) % DAY;
    setTyped(null);
    onChange(`${String(Math.floor(next / 60)).padStart(2, "0")}:${String(next % 60).padStart(2, "0")}`);
  };
  return (
    <input
      {...rest}
      type="text"
      inputMode="numeric"
      autoComplete="off"
      placeholder="19:30"
      aria-invalid={isWrong || rest["aria-invalid"] || undefined}
      title={isWrong ? "There is no such time. Write it like 19:30." : "Hours from 0 to 23"}
      className={className}
      value={typed ?? value}
      onChange={(event) => {
        setTyped(event.target.value);
        const time = readTime(event.target.value);
        if (event.target.value === "") onChange("");
        else if (time && event.target.value.length >= 4) onChange(time);
      }}
      onBlur={() => {
        rest.onBlur?.();
        const time = typed ? readTime(typed) : null;
        if (time && time !== value) onChange(time);
        if (!isWrong) setTyped(null);
      }}
      onKeyDown={(event) => {
        const step = { ArrowUp: 15, ArrowDown: -15 }[event.key];
        if (step === undefined) return;
        event.preventDefault();
        move(step);
      }}
    />
  );
}
