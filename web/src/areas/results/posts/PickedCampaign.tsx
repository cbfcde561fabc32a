import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { useCampaigns } from "../../../study/queries";
import { Choice } from "../../../ui/Choice";
import { useToast } from "../../../ui/Toast";
import { usePutIntoCampaign } from "../queries";

/** Putting picked posts that are out into a campaign together, or out of any. */
export function PickedCampaign({ posts }: { posts: number[] }) {
  const { brand } = useBrand();
  const campaigns = useCampaigns(brand.slug).data ?? [];
  const put = usePutIntoCampaign(brand.slug);
  const say = useToast();
  const nameOf = (id: number | null) => campaigns.find((one) => one.id === id)?.name;
  return (
    <Choice
      label="Put the picked posts into a campaign"
      value=""
      options={[
        ...campaigns.map((one) => ({ value: String(one.id), label: one.name })),
        { value: "none", label: "none: out of any" },
      ]}
      onChoose={(value) => {
        const campaign = value === "none" ? null : Number(value);
        put.mutate(
          { campaign, posts },
          {
            onSuccess: ({ posts: moved }) =>
              say(
                campaign === null
                  ? `${plural(moved, "post")} taken out of any campaign.`
                  : `${plural(moved, "post")} put into ${nameOf(campaign)}.`,
              ),
            onError: (error) => say(error.message, "wrong"),
          },
        );
      }}
    >
      Put into a campaign
    </Choice>
  );
}
