import { X } from "lucide-react";
import { useBrand } from "../../study/brand";
import { useTags } from "../../study/queries";
import { inputLook } from "../../ui/Field";

type Props = { tags: number[]; isEditable: boolean; onTags: (tags: number[]) => void };

/** Tags that a planned post is to have when it is out: seen before, put on and taken off. */
export function TagsWhenOut({ tags, isEditable, onTags }: Props) {
  const { brand } = useBrand();
  const every = useTags(brand.slug).data ?? [];
  const named = tags.flatMap((id) => every.find((one) => one.id === id) ?? []);
  const rest = every.filter((one) => !tags.includes(one.id));
  if (every.length === 0) return null;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <span className="text-[13px] font-semibold">Tags when it is out</span>
      {named.length === 0 && !isEditable && <span className="text-muted">none</span>}
      {named.map((one) => (
        <span key={one.id} className="flex items-center border border-rule-strong pl-2">
          {one.name}
          {isEditable && (
            <button
              type="button"
              aria-label={`Take the tag ${one.name} off`}
              className="flex h-6 w-6 items-center justify-center hover:text-down"
              onClick={() => onTags(tags.filter((id) => id !== one.id))}
            >
              <X size={13} />
            </button>
          )}
        </span>
      ))}
      {isEditable && rest.length > 0 && (
        <select
          aria-label="Another tag when it is out"
          className={`${inputLook} !h-7 !w-auto`}
          value=""
          onChange={(event) => onTags([...tags, Number(event.target.value)])}
        >
          <option value="">another …</option>
          {rest.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}
