import { DayPicker } from "react-day-picker";
import type { Day } from "../lib/days";

/** react-day-picker counts in the browser's own zone: noon there is the same day whatever it is. */
const toDate = (day: Day) => {
  const [year, month, date] = day.split("-").map(Number) as [number, number, number];
  return new Date(year, month - 1, date, 12);
};
const toDay = (date: Date): Day =>
  `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, "0")}-${String(date.getDate()).padStart(2, "0")}`;

/** A month, Monday first, weeks numbered; walked by arrows, Page Up and Down. */
export function Calendar({ value, today, onChoose }: { value: Day | null; today: Day; onChoose: (day: Day) => void }) {
  return (
    <DayPicker
      mode="single"
      autoFocus
      weekStartsOn={1}
      showWeekNumber
      showOutsideDays
      selected={value ? toDate(value) : undefined}
      defaultMonth={toDate(value ?? today)}
      today={toDate(today)}
      onSelect={(date) => date && onChoose(toDay(date))}
      classNames={{
        months: "relative",
        month_caption: "flex h-7 items-center px-1 font-title text-[15px]",
        nav: "absolute right-0 top-0 flex gap-1",
        button_previous: "h-7 w-7 text-muted hover:text-berry",
        button_next: "h-7 w-7 text-muted hover:text-berry",
        chevron: "inline-block h-4 w-4 fill-current",
        month_grid: "border-collapse",
        weekday: "h-6 w-8 text-[11.5px] font-normal text-muted",
        week_number: "w-7 pr-1 text-right text-[11px] text-muted",
        day: "p-0 text-center",
        day_button: "h-7 w-8 hover:bg-wash",
        selected: "bg-berry text-on-berry",
        today: "underline decoration-2 underline-offset-4",
        outside: "text-muted",
      }}
    />
  );
}
