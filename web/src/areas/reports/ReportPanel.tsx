import { useState } from "react";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Field } from "../../ui/Field";
import { Picker } from "../media";
import { type Content, type Page, withPage } from "./edit";
import { useBeginnings } from "./queries";
import { ACCENT, PAPER } from "./SheetPage";
import { StudyFields } from "./StudyFields";

type Props = { content: Content; page: Page | null; onChange: (content: Content, step?: string) => void };

/** What can be chosen of the page that is open, and of the report as a whole. */
export function ReportPanel({ content, page, onChange }: Props) {
  const { brand } = useBrand();
  const languages = useBeginnings(brand.slug).data?.languages ?? [];
  const [isPicking, setPicking] = useState(false);
  const look = (change: Partial<Content["look"]>, step = "") =>
    onChange({ ...content, look: { ...content.look, ...change } }, step);
  const text = (name: "subtitle" | "header" | "footer", label: string, help?: string) => (
    <Field label={label} help={help}>
      {(props) => (
        <input
          {...props}
          maxLength={name === "subtitle" ? 200 : 120}
          value={content.look[name]}
          onChange={(e) => look({ [name]: e.target.value }, name)}
        />
      )}
    </Field>
  );
  return (
    <div className="flex flex-col gap-3">
      {page && (
        <fieldset className="flex flex-col gap-2">
          <legend className="mb-1 font-title text-[15px] font-semibold">This page</legend>
          <Check
            isOn={page.has_words}
            onChange={(has_words) => onChange(withPage(content, page.id, (one) => ({ ...one, has_words })))}
            help="Made from its figures until you edit them"
          >
            With words
          </Check>
          <Colour
            label="Ground of this page"
            usual={content.look.ground || PAPER}
            value={page.ground}
            onChange={(ground) =>
              onChange(
                withPage(content, page.id, (one) => ({ ...one, ground })),
                "ground",
              )
            }
          />
          <Field label="Notes" help="For whoever presents it; not shown to others">
            {(props) => (
              <textarea
                {...props}
                className={`${props.className} h-16 py-1`}
                maxLength={2000}
                value={page.notes}
                onChange={(e) =>
                  onChange(
                    withPage(content, page.id, (one) => ({ ...one, notes: e.target.value })),
                    `notes ${page.id}`,
                  )
                }
              />
            )}
          </Field>
        </fieldset>
      )}
      <fieldset className="flex flex-col gap-2">
        <legend className="mb-1 font-title text-[15px] font-semibold">What it is of</legend>
        <StudyFields study={content.study} onChange={(study) => onChange({ ...content, study })} />
      </fieldset>
      <fieldset className="flex flex-col gap-2">
        <legend className="mb-1 font-title text-[15px] font-semibold">For whom</legend>
        <Field label="Language">
          {(props) => (
            <select
              {...props}
              value={content.language}
              onChange={(e) => onChange({ ...content, language: e.target.value })}
            >
              {languages.map((one) => (
                <option key={one.key} value={one.key}>
                  {one.name}
                </option>
              ))}
            </select>
          )}
        </Field>
        <Field label="Label" help="To find it again among others">
          {(props) => (
            <input
              {...props}
              maxLength={60}
              value={content.label}
              onChange={(e) => onChange({ ...content, label: e.target.value }, "label")}
            />
          )}
        </Field>
        <Check isOn={content.look.has_cover} onChange={(has_cover) => look({ has_cover })}>
          With a title page
        </Check>
        {content.look.has_cover && text("subtitle", "Beneath the title")}
        {text("header", "Line above each page")}
        {text("footer", "Line below each page")}
        <span className="flex gap-2">
          <Button onClick={() => setPicking(true)}>{content.look.logo ? "Another logo" : "A logo"}</Button>
          {content.look.logo && <Button onClick={() => look({ logo: null })}>No logo</Button>}
        </span>
        {isPicking && (
          <Picker
            isOpen
            kind="picture"
            most={1}
            title="The client’s logo"
            onClose={() => setPicking(false)}
            chosen={content.look.logo ? [content.look.logo] : []}
            onChosen={(ids) => look({ logo: ids.at(-1) ?? null })}
          />
        )}
        <Colour
          label="Colour"
          usual={ACCENT}
          value={content.look.accent}
          onChange={(accent) => look({ accent }, "accent")}
        />
        <Colour
          label="Ground"
          usual={PAPER}
          value={content.look.ground}
          onChange={(ground) => look({ ground }, "ground of all")}
        />
        <Field label="Titles in">
          {(props) => (
            <select
              {...props}
              value={content.look.face}
              onChange={(e) => look({ face: e.target.value as "sans" | "serif" })}
            >
              <option value="serif">a face with serifs</option>
              <option value="sans">a face without</option>
            </select>
          )}
        </Field>
        <p className="label">Colours are darkened or lightened as far as it takes to read them on their ground.</p>
      </fieldset>
    </div>
  );
}

type ColourProps = { label: string; value: string; usual: string; onChange: (value: string) => void };

function Colour({ label, value, usual, onChange }: ColourProps) {
  return (
    <Field label={label}>
      {(props) => (
        <span className="flex items-center gap-2">
          <input
            {...props}
            type="color"
            className="h-8 w-12 border border-rule-strong bg-panel"
            value={value || usual}
            onChange={(e) => onChange(e.target.value)}
          />
          {value ? (
            <button type="button" className="under label min-h-6 hover:text-berry" onClick={() => onChange("")}>
              {value}: take it out
            </button>
          ) : (
            <span className="label">as usual</span>
          )}
        </span>
      )}
    </Field>
  );
}
