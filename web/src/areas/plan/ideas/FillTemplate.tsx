import { useState } from "react";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { inputLook } from "../../../ui/Field";
import { Failed, Loading } from "../../../ui/States";
import { type Template, useTemplates } from "./queries";
import { filled } from "./rules";

export type FromTemplate = { text: string; headline: string; comment: string };

/** Choosing a template and filling in its places; what stays empty stays as a place, for all to see. */
export function FillTemplate({ onFilled }: { onFilled: (told: FromTemplate) => void }) {
  const { brand } = useBrand();
  const templates = useTemplates(brand.slug);
  const [chosen, setChosen] = useState<Template | null>(null);
  const [values, setValues] = useState<Record<string, string>>({});
  if (templates.error) return <Failed error={templates.error} onRetry={() => templates.refetch()} />;
  if (!templates.data) return <Loading what="Loading the templates" />;
  if (!chosen)
    return templates.data.length === 0 ? (
      <p className="label">There is no template yet. They are made beside the ideas.</p>
    ) : (
      <ul>
        {templates.data.map((one) => (
          <li key={one.id}>
            <button
              type="button"
              className="block w-full px-1 py-1 text-left hover:bg-wash"
              onClick={() => {
                setValues({});
                setChosen(one);
              }}
            >
              {one.name}
              <span className="label line-clamp-1">{one.text}</span>
            </button>
          </li>
        ))}
      </ul>
    );
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        // The field of the post is a form of its own: it is not sent by this.
        event.stopPropagation();
        onFilled({
          text: filled(chosen.text, values),
          headline: filled(chosen.headline ?? "", values),
          comment: filled(chosen.first_comment ?? "", values),
        });
      }}
    >
      <p className="font-semibold">{chosen.name}</p>
      {chosen.places.map((place) => (
        <label key={place} className="flex flex-col">
          <span className="text-[13px]">{place}</span>
          <input
            className={inputLook}
            value={values[place] ?? ""}
            onChange={(event) => setValues({ ...values, [place]: event.target.value })}
          />
        </label>
      ))}
      <p className="max-h-[120px] overflow-y-auto whitespace-pre-wrap border-l-2 border-rule-strong pl-2 text-muted">
        {filled(chosen.text, values)}
      </p>
      <div className="flex gap-2">
        <Button type="submit" kind="main">
          Put it in
        </Button>
        <Button onClick={() => setChosen(null)}>Another</Button>
      </div>
    </form>
  );
}
