import { useBrand } from "../../study/brand";
import { useCampaigns } from "../../study/queries";
import { Field } from "../../ui/Field";

type Props = {
  value: number | null;
  onChange: (campaign: number | null) => void;
  error?: string;
  disabled?: boolean;
};

/** The campaign that something belongs to, or none. */
export function CampaignField({ value, onChange, error, disabled }: Props) {
  const { brand } = useBrand();
  const campaigns = useCampaigns(brand.slug).data ?? [];
  return (
    <Field label="Campaign" error={error}>
      {(props) => (
        <select
          {...props}
          disabled={disabled}
          value={value ?? ""}
          onChange={(event) => onChange(Number(event.target.value) || null)}
        >
          <option value="">none</option>
          {campaigns.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}
