import { networkNamed, useBrand } from "../../study/brand";
import { useProfiles } from "../../study/queries";

type Props = {
  legend: string;
  chosen: readonly number[];
  isEditable?: boolean;
  error?: string;
  onChange: (profiles: number[]) => void;
};

/** Own profiles, each with a box; a profile's name is told where its network has several. */
export function ProfileBoxes({ legend, chosen, isEditable = true, error, onChange }: Props) {
  const { brand, networks } = useBrand();
  const own = (useProfiles(brand.slug).data?.profiles ?? []).filter((one) => one.kind === "own");
  return (
    <fieldset disabled={!isEditable}>
      <legend className="text-[13px] font-semibold">{legend}</legend>
      <div className="flex flex-wrap gap-x-4">
        {own.map((one) => (
          <label key={one.id} className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="h-4 w-4 accent-(--berry)"
              checked={chosen.includes(one.id)}
              onChange={() =>
                onChange(chosen.includes(one.id) ? chosen.filter((id) => id !== one.id) : [...chosen, one.id])
              }
            />
            {networkNamed(networks, one.network).name}
            {own.filter((other) => other.network === one.network).length > 1 && (
              <span className="label">{one.name}</span>
            )}
          </label>
        ))}
      </div>
      {error && (
        <p className="text-down" role="alert">
          {error}
        </p>
      )}
    </fieldset>
  );
}
