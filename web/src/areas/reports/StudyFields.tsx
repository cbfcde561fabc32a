import { dayOf } from "../../lib/days";
import { useBrand } from "../../study/brand";
import { useCampaigns, useTags } from "../../study/queries";
import { DateField } from "../../ui/DateField";
import { Field } from "../../ui/Field";
import { SPANS } from "./asked";

type Study = Record<string, string>;
type Props = { study: Study; onChange: (study: Study) => void; usual?: string };

const without = (study: Study, ...names: string[]): Study =>
  Object.fromEntries(Object.entries(study).filter(([name, value]) => value !== "" && !names.includes(name)));

/** What figures are of: days that move with today or stay, what they are held against, and which posts. */
export function StudyFields({ study, onChange, usual }: Props) {
  const { brand, networks, now } = useBrand();
  const today = dayOf(now, brand.time_zone);
  const tags = useTags(brand.slug);
  const campaigns = useCampaigns(brand.slug);
  const set = (name: string, value: string) => onChange(value ? { ...study, [name]: value } : without(study, name));
  const days = study.span ?? (study.first ? "own" : (usual ?? ""));
  return (
    <>
      <Field label="Days">
        {(props) => (
          <select
            {...props}
            value={days}
            onChange={(e) => {
              const rest = without(study, "span", "first", "last");
              if (e.target.value === "own")
                onChange({ ...rest, first: study.first ?? today, last: study.last ?? today });
              else onChange(e.target.value ? { ...rest, span: e.target.value } : rest);
            }}
          >
            {usual === undefined && <option value="">the last 28 days</option>}
            {usual === "" && <option value="">those of the report</option>}
            {SPANS.map(([value, name]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
            <option value="own">from a day to a day</option>
          </select>
        )}
      </Field>
      {days === "own" && (
        <span className="grid grid-cols-2 gap-2">
          <Field label="From">
            {(props) => (
              <DateField {...props} today={today} value={study.first ?? ""} onChange={(day) => set("first", day)} />
            )}
          </Field>
          <Field label="To">
            {(props) => (
              <DateField {...props} today={today} value={study.last ?? ""} onChange={(day) => set("last", day)} />
            )}
          </Field>
        </span>
      )}
      <Field label="Held against">
        {(props) => (
          <select {...props} value={study.compare ?? "previous"} onChange={(e) => set("compare", e.target.value)}>
            <option value="previous">as many days before</option>
            <option value="aligned">the same weekdays before</option>
            <option value="year_before">the same days a year before</option>
          </select>
        )}
      </Field>
      <Field label="Network">
        {(props) => (
          <select {...props} value={study.network ?? ""} onChange={(e) => set("network", e.target.value)}>
            <option value="">all</option>
            {networks.map((one) => (
              <option key={one.key} value={one.key}>
                {one.name}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label="Campaign">
        {(props) => (
          <select {...props} value={study.campaign ?? ""} onChange={(e) => set("campaign", e.target.value)}>
            <option value="">all posts</option>
            {campaigns.data?.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label="Tag">
        {(props) => (
          <select {...props} value={study.tag ?? ""} onChange={(e) => set("tag", e.target.value)}>
            <option value="">all posts</option>
            {tags.data?.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label="Format">
        {(props) => (
          <select {...props} value={study.format ?? ""} onChange={(e) => set("format", e.target.value)}>
            <option value="">all</option>
            {["text", "link", "image", "album", "short_video", "long_video"].map((one) => (
              <option key={one} value={one}>
                {one.replace("_", " ")}
              </option>
            ))}
          </select>
        )}
      </Field>
    </>
  );
}
