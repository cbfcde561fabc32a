import { useState } from "react";
import { saveFigure } from "../../figures/drawing/save";
import { drawingsOf } from "../../figures/drawing/set";
import { useBrand } from "../../study/brand";
import { useMetrics } from "../../study/queries";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Choice } from "../../ui/Choice";
import { Field } from "../../ui/Field";
import { useToast } from "../../ui/Toast";
import { Picker } from "../media";
import { ASKED, type Asked, DRAWINGS } from "./asked";
import type { Item } from "./edit";
import type { ShownItem } from "./queries";
import { StudyFields } from "./StudyFields";

const FORMS = [
  { value: "png", label: "Picture as PNG" },
  { value: "svg", label: "Drawing as SVG" },
  { value: "csv", label: "Table as CSV" },
  { value: "xlsx", label: "Table as XLSX" },
];

type Props = {
  item: Item;
  shown?: ShownItem;
  onChange: (item: Item, step?: string) => void;
  onCopy: () => void;
  onTakeOut: () => void;
};

/** What can be chosen of a figure on a page: its title, how it is drawn, what it asks, and of what. */
export function ItemPanel({ item, shown, onChange, onCopy, onTakeOut }: Props) {
  const isFigure = item.kind !== "text" && item.kind !== "picture";
  const [isPicking, setPicking] = useState(false);
  const { brand } = useBrand();
  const say = useToast();
  const save = (form: string) => {
    const name = `${brand.slug}-${(shown?.title || item.kind)
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, "-")
      .slice(0, 60)}`;
    if (form === "csv" || form === "xlsx") {
      const query = new URLSearchParams({ ...shown?.query, form });
      return location.assign(`/api/brands/${brand.slug}/figures/${item.kind}/table?${query}`);
    }
    const figure = document.querySelector<HTMLElement>(`[data-item="${item.id}"] figure`);
    if (figure) saveFigure(figure, form as "svg" | "png", name).catch((error: Error) => say(error.message, "wrong"));
  };
  const can = shown && isFigure ? drawingsOf(shown) : [];
  return (
    <div className="flex flex-col gap-3">
      <h2 className="text-[15px]">{shown?.name || (item.kind === "text" ? "Text" : "Picture")}</h2>
      {item.kind !== "text" && (
        <Field
          label={isFigure ? "Title" : "What it shows, for who cannot see it"}
          help={isFigure ? "Left empty, it says itself what it is" : undefined}
        >
          {(props) => (
            <input
              {...props}
              maxLength={120}
              value={item.title}
              onChange={(e) => onChange({ ...item, title: e.target.value }, `title ${item.id}`)}
            />
          )}
        </Field>
      )}
      {item.kind === "text" && (
        <Field label="Words">
          {(props) => (
            <textarea
              {...props}
              className={`${props.className} h-32 py-1`}
              value={item.words.map((row) => row.map((one) => one.text).join("")).join("\n")}
              onChange={(e) =>
                onChange(
                  {
                    ...item,
                    words: e.target.value
                      .split("\n")
                      .map((text) => [{ text, item: "", cell: "", what: "now" as const, said: null }]),
                  },
                  `words ${item.id}`,
                )
              }
            />
          )}
        </Field>
      )}
      {item.kind === "picture" && <Button onClick={() => setPicking(true)}>Choose a picture</Button>}
      {isPicking && (
        <Picker
          isOpen
          kind="picture"
          most={1}
          title="A picture from the library"
          onClose={() => setPicking(false)}
          chosen={item.asset ? [item.asset] : []}
          onChosen={(ids) => onChange({ ...item, asset: ids.at(-1) ?? null })}
        />
      )}
      {isFigure && can.length > 1 && (
        <Field label="Drawn as">
          {(props) => (
            <select
              {...props}
              value={can.includes(item.drawing) ? item.drawing : can[0]}
              onChange={(e) => onChange({ ...item, drawing: e.target.value as Item["drawing"] })}
            >
              {can.map((one) => (
                <option key={one} value={one}>
                  {DRAWINGS[one]}
                </option>
              ))}
            </select>
          )}
        </Field>
      )}
      {(ASKED[item.kind] ?? []).map((one) => (
        <AskedField key={one.name} asked={one} item={item} onChange={onChange} />
      ))}
      {isFigure && (item.drawing === "table" || item.drawing === "bars" || item.drawing === "cards") && (
        <Field label="Rows at most">
          {(props) => (
            <input
              {...props}
              type="number"
              min={1}
              max={60}
              value={item.rows}
              onChange={(e) =>
                onChange({ ...item, rows: Math.min(60, Math.max(1, Number(e.target.value) || 1)) }, "rows")
              }
            />
          )}
        </Field>
      )}
      {isFigure && (
        <Check isOn={item.study !== null} onChange={(on) => onChange({ ...item, study: on ? {} : null })}>
          Of a study of its own
        </Check>
      )}
      {isFigure && item.study !== null && (
        <StudyFields usual="" study={item.study} onChange={(study) => onChange({ ...item, study })} />
      )}
      {shown?.study && <p className="label">{shown.study}.</p>}
      <span className="flex gap-2">
        <Button onClick={onCopy}>Copy</Button>
        <Button onClick={onTakeOut}>Take it out</Button>
        {isFigure && shown && !shown.error && (
          <Choice label="Save this figure" value="" options={FORMS} onChoose={save}>
            Save
          </Choice>
        )}
      </span>
    </div>
  );
}

function AskedField({ asked, item, onChange }: { asked: Asked; item: Item; onChange: Props["onChange"] }) {
  const { brand } = useBrand();
  const metrics = useMetrics(brand.slug, asked.metrics !== undefined);
  const value = item.params[asked.name] ?? "";
  const set = (next: string) => onChange({ ...item, params: { ...item.params, [asked.name]: next } });
  const options: [string, string][] =
    asked.choices ?? (metrics.data?.metrics ?? []).map((one): [string, string] => [one.key, one.name]);
  const keys = value.split(",").filter(Boolean);
  if (asked.metrics === "several")
    return (
      <Field label={asked.label} help="In this order">
        {(props) => (
          <div className="flex flex-col gap-1">
            {keys.map((key) => (
              <span key={key} className="flex items-center justify-between gap-2">
                <span className="truncate">{options.find(([one]) => one === key)?.[1] ?? key}</span>
                <button
                  type="button"
                  className="under label min-h-6 hover:text-berry"
                  onClick={() => set(keys.filter((one) => one !== key).join(","))}
                >
                  take out
                </button>
              </span>
            ))}
            <select {...props} value="" onChange={(e) => e.target.value && set([...keys, e.target.value].join(","))}>
              <option value="">another …</option>
              {options
                .filter(([key]) => !keys.includes(key))
                .map(([key, name]) => (
                  <option key={key} value={key}>
                    {name}
                  </option>
                ))}
            </select>
          </div>
        )}
      </Field>
    );
  return (
    <Field label={asked.label}>
      {(props) => (
        <select {...props} value={value || options[0]?.[0]} onChange={(e) => set(e.target.value)}>
          {options.map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}
