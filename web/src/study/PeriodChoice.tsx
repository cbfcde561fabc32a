import { Popover } from "radix-ui";
import { useState } from "react";
import { addDays, type Day, lastOfMonth, monthName, spanText } from "../lib/days";
import { plural } from "../lib/format";
import { Button } from "../ui/Button";
import { DateField } from "../ui/DateField";
import { useBrand } from "./brand";
import { lengthOf, presets, type Span } from "./line/geometry";
import { LONGEST_DAYS, useStudy } from "./study";

const MONTHS = 18;
/** What is wrong with a period, in words; empty where nothing is. */
export function wrongWith(first: Day | "", last: Day | ""): string {
  if (!first || !last) return "Say the first and the last day.";
  if (last < first) return "It ends before it begins.";
  if (lengthOf({ first, last }) > LONGEST_DAYS + 1) return `A period has at most ${LONGEST_DAYS} days.`;
  return "";
}

/** The last months, the newest first; this one up to today. */
export function monthsBack(today: Day): Span[] {
  const found: Span[] = [];
  let first = `${today.slice(0, 7)}-01`;
  for (let i = 0; i < MONTHS; i++) {
    const end = lastOfMonth(first);
    found.push({ first, last: end > today ? today : end });
    first = `${addDays(first, -1).slice(0, 7)}-01`;
  }
  return found;
}

/** The period in the sentence: some usual ones, months to click, and two fields for days of one's own. */
export function PeriodChoice() {
  const { today } = useBrand();
  const { study, change } = useStudy();
  const [isOpen, setOpen] = useState(false);
  const chosen = presets(today).find((p) => p.span.first === study.first && p.span.last === study.last);
  const choose = (span: Span) => {
    change(span);
    setOpen(false);
  };
  const look = (span: Span) =>
    `h-6 px-1.5 text-left hover:bg-wash ${span.first === study.first && span.last === study.last ? "font-semibold text-berry" : ""}`;
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger
        aria-label="Period"
        className="h-6 font-semibold underline decoration-dashed decoration-rule-strong underline-offset-4 hover:text-berry hover:decoration-berry"
      >
        {chosen?.label.toLowerCase() ?? plural(lengthOf(study), "day")}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 flex max-h-[80vh] max-w-[calc(100vw-16px)] flex-wrap gap-x-6 gap-y-3 overflow-y-auto border border-rule-strong bg-panel p-3 text-ink shadow-xl"
        >
          <fieldset className="flex flex-col">
            <legend className="label">Up to today</legend>
            {presets(today).map((p) => (
              <button key={p.label} type="button" className={look(p.span)} onClick={() => choose(p.span)}>
                {p.label}
              </button>
            ))}
          </fieldset>
          <fieldset>
            <legend className="label">A month</legend>
            <div className="grid grid-cols-3">
              {monthsBack(today).map((span) => (
                <button
                  key={span.first}
                  type="button"
                  title={spanText(span.first, span.last)}
                  className={look(span)}
                  onClick={() => choose(span)}
                >
                  {monthName(span.first)}
                </button>
              ))}
            </div>
          </fieldset>
          <OwnDays key={`${study.first} ${study.last}`} first={study.first} last={study.last} onChoose={choose} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function OwnDays({ first, last, onChoose }: Span & { onChoose: (span: Span) => void }) {
  const { today } = useBrand();
  const [from, setFrom] = useState<Day | "">(first);
  const [to, setTo] = useState<Day | "">(last);
  const wrong = wrongWith(from, to);
  return (
    <form
      className="flex w-[180px] flex-col gap-1.5"
      aria-label="Days of your own"
      onSubmit={(event) => {
        event.preventDefault();
        if (!wrong && from && to) onChoose({ first: from, last: to });
      }}
    >
      <span className="label">Days of your own</span>
      <DateField aria-label="First day" value={from} today={today} onChange={setFrom} />
      <DateField aria-label="Last day" value={to} today={today} onChange={setTo} />
      <span className={`text-[12.5px] ${wrong ? "text-down" : "text-muted"}`} role="status">
        {wrong || plural(lengthOf({ first: from, last: to }), "day")}
      </span>
      <Button type="submit" kind="main" disabled={Boolean(wrong)} className="self-start">
        Study these days
      </Button>
    </form>
  );
}
