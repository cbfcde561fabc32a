import { useEffect, useId, useRef, useState } from "react";
import { useForm } from "react-hook-form";
import { ProblemError } from "../../../api/client";
import { spanText } from "../../../lib/days";
import { figure, plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { useStudy } from "../../../study/study";
import { Button } from "../../../ui/Button";
import { Field, inputLook } from "../../../ui/Field";
import { Entry, Form } from "../../../ui/Form";
import { Sheet } from "../../../ui/Sheet";
import { Notice } from "../../../ui/States";
import { useToast } from "../../../ui/Toast";
import { type Metric, useSaveMetric, useTriedFormula } from "../queries";
import { completed, completions, wordAt } from "./completion";

type Props = { metric: Metric | null; names: string[]; onClose: () => void };
const WAIT_MS = 200;
const DRAFT = "dakika.metric";

/** Write a metric of one's own: names are completed, the result on the period is shown as one types, errors point. */
export function MetricEditor({ metric, names, onClose }: Props) {
  const { brand } = useBrand();
  const { study } = useStudy();
  const kept = metric ? null : readDraft();
  const form = useForm({
    defaultValues: { name: metric?.name ?? kept?.name ?? "", definition: metric?.definition ?? kept?.definition ?? "" },
  });
  const { name, definition } = form.watch();
  const [formula, setFormula] = useState(metric?.formula ?? kept?.formula ?? "");
  const [isMore, setMore] = useState(metric?.more_is_better ?? true);
  const [asked, setAsked] = useState(formula);
  useEffect(() => {
    const wait = setTimeout(() => setAsked(formula), WAIT_MS);
    if (!metric) sessionStorage.setItem(DRAFT, JSON.stringify({ name, definition, formula }));
    return () => clearTimeout(wait);
  }, [formula, name, definition, metric]);
  const tried = useTriedFormula(brand.slug, study, asked);
  const save = useSaveMetric(brand.slug);
  const say = useToast();
  const errors = save.error instanceof ProblemError ? save.error.fields : ({} as Record<string, string>);
  const fault = asked === formula ? (tried.data?.fault ?? null) : null;
  const result = asked === formula && formula.trim() ? tried.data : undefined;
  return (
    <Sheet isOpen onClose={onClose} title={metric ? `Change ${metric.name}` : "A metric of our own"} form="dialog">
      <Form
        form={form}
        error={null}
        className="flex flex-col gap-3.5"
        onSubmit={() => {
          save.mutate(
            { id: metric?.id ?? null, name, definition, formula, more_is_better: isMore },
            {
              onSuccess: () => {
                sessionStorage.removeItem(DRAFT);
                say(`${name} can be chosen wherever a metric is.`);
                onClose();
              },
            },
          );
        }}
      >
        {save.error && Object.keys(errors).length === 0 && <Notice kind="wrong">{save.error.message}</Notice>}
        <Entry form={form} name="name" label="Name" error={errors.name}>
          {(field) => <input {...field} maxLength={60} />}
        </Entry>
        <FormulaField value={formula} onChange={setFormula} names={names} fault={fault} error={errors.formula} />
        <div aria-live="polite" className="min-h-[44px] border-l-2 border-rule-strong pl-3">
          {result?.now ? (
            <>
              <p>
                <b className="text-[17px]">{figure(result.now.value, result.unit ?? "count")}</b> in{" "}
                {spanText(study.first, study.last)}, {figure(result.before?.value, result.unit ?? "count")} before
              </p>
              <p className="label">
                {result.written}, {plural(result.now.n, "post")}
                {result.now.missing > 0 && `; ${result.now.missing} lack a part`}
              </p>
            </>
          ) : (
            <p className="label">{formula.trim() ? (fault ? "" : "…") : "The result on the period appears here."}</p>
          )}
        </div>
        <Entry
          form={form}
          name="definition"
          label="What it means"
          help="One sentence, for those who read it later."
          error={errors.definition}
        >
          {(field) => <input {...field} maxLength={300} />}
        </Entry>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={isMore}
            onChange={(e) => setMore(e.target.checked)}
            className="h-4 w-4 shrink-0 accent-(--berry)"
          />
          More of it is better
        </label>
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>Leave it</Button>
          <Button
            kind="main"
            type="submit"
            isBusy={save.isPending}
            disabled={!name.trim() || !formula.trim() || !!fault}
          >
            {metric ? "Change the metric" : "Make the metric"}
          </Button>
        </div>
      </Form>
    </Sheet>
  );
}

function readDraft(): { name: string; definition: string; formula: string } | null {
  try {
    return JSON.parse(sessionStorage.getItem(DRAFT) ?? "null");
  } catch {
    return null;
  }
}

type Fault = { message: string; start: number; end: number } | null;
type FormulaProps = { value: string; onChange: (text: string) => void; names: string[]; fault: Fault; error?: string };

function FormulaField({ value, onChange, names, fault, error }: FormulaProps) {
  const id = useId();
  const field = useRef<HTMLInputElement>(null);
  const [caret, setCaret] = useState(0);
  const [at, setAt] = useState(0);
  const [isOpen, setOpen] = useState(false);
  const word = wordAt(value, caret);
  const offered = isOpen ? completions(word.text, names) : [];
  const take = (name: string) => {
    const done = completed(value, word, name);
    onChange(done.text);
    setOpen(false);
    requestAnimationFrame(() => {
      field.current?.focus();
      field.current?.setSelectionRange(done.caret, done.caret);
      setCaret(done.caret);
    });
  };
  return (
    <div className="relative">
      <Field
        label="Formula"
        error={fault?.message ?? error}
        help="Names of metrics with + − * / ( ) numbers, min, max and abs, such as (comments + 2 * shares) / reach."
      >
        {(props) => (
          <>
            <input
              {...props}
              ref={field}
              value={value}
              spellCheck={false}
              autoComplete="off"
              maxLength={800}
              role="combobox"
              aria-expanded={offered.length > 0}
              aria-controls={`${id}-names`}
              aria-activedescendant={offered.length ? `${id}-${at}` : undefined}
              className={`${inputLook} font-mono text-[13.5px]`}
              onChange={(e) => {
                onChange(e.target.value);
                setCaret(e.target.selectionStart ?? e.target.value.length);
                setAt(0);
                setOpen(true);
              }}
              onSelect={(e) => setCaret(e.currentTarget.selectionStart ?? 0)}
              onBlur={() => setTimeout(() => setOpen(false), 120)}
              onKeyDown={(e) => {
                if (offered.length === 0) return;
                if (e.key === "ArrowDown" || e.key === "ArrowUp") {
                  e.preventDefault();
                  setAt((at + (e.key === "ArrowDown" ? 1 : offered.length - 1)) % offered.length);
                } else if (e.key === "Enter" || e.key === "Tab") {
                  e.preventDefault();
                  take(offered[at] as string);
                } else if (e.key === "Escape") {
                  e.stopPropagation();
                  setOpen(false);
                }
              }}
            />
            {fault && (
              <pre aria-hidden="true" className="overflow-hidden px-2 font-mono text-[13.5px] leading-3 text-down">
                {" ".repeat(fault.start) + "^".repeat(Math.max(1, fault.end - fault.start))}
              </pre>
            )}
          </>
        )}
      </Field>
      {offered.length > 0 && (
        <div
          id={`${id}-names`}
          role="listbox"
          aria-label="Names"
          className="absolute top-[58px] z-10 min-w-52 border border-rule-strong bg-panel py-1 shadow-xl"
        >
          {offered.map((name, i) => (
            <div
              key={name}
              id={`${id}-${i}`}
              role="option"
              tabIndex={-1}
              aria-selected={i === at}
              className={`cursor-pointer px-3 py-1 font-mono text-[13px] ${i === at ? "bg-wash" : ""}`}
              onPointerDown={(e) => {
                e.preventDefault();
                take(name);
              }}
            >
              {name}
            </div>
          ))}
        </div>
      )}
    </div>
  );
}
