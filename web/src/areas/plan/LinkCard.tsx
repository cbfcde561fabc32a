import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useBrand, useNetwork } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Picker, Thumb, useAssetsOf } from "../media";
import { usePage } from "./queries";
import { addressOf, cardOf, type Draft } from "./rules";

const LONGEST = 200;
type Props = {
  profile: Schemas["Profile"];
  draft: Draft;
  isEditable: boolean;
  change: (patch: Partial<Draft>) => void;
};

/** What stands on the card of the link: what the page says of itself, or own words and an own picture instead. */
export function LinkCard({ profile, draft, isEditable, change }: Props) {
  const { brand } = useBrand();
  const network = useNetwork(profile.network);
  const address = addressOf(draft, profile.id);
  const isOffered = network.offer.has_own_preview && address !== undefined;
  const page = usePage(brand.slug, isOffered ? address : undefined).data;
  const card = cardOf(draft, profile.id);
  const [picture] = useAssetsOf(brand.slug, card.picture ? [card.picture] : []);
  const [isChoosing, setChoosing] = useState(false);
  const [isOpen, setOpen] = useState(card.isOwn);
  if (!isOffered) return null;
  const put = (key: string, value: string) =>
    change({ options: { ...draft.options, [profile.id]: { ...draft.options[profile.id], [key]: value } } });
  return (
    <details
      open={isOpen}
      onToggle={(event) => setOpen(event.currentTarget.open)}
      className="border border-rule px-3 py-2"
    >
      <summary className="cursor-pointer text-[13px] font-semibold">
        On the card of the link{" "}
        <span className="label font-normal">{card.isOwn ? "own words" : "as the page has it"}</span>
      </summary>
      <div className="mt-2 flex flex-col gap-2">
        <Field label="Title on the card">
          {(props) => (
            <input
              {...props}
              disabled={!isEditable}
              maxLength={LONGEST}
              value={card.title}
              placeholder={page?.title ?? ""}
              onChange={(event) => put("card_title", event.target.value)}
            />
          )}
        </Field>
        <Field label="Words on the card">
          {(props) => (
            <input
              {...props}
              disabled={!isEditable}
              maxLength={LONGEST}
              value={card.text}
              placeholder={page?.description ?? ""}
              onChange={(event) => put("card_text", event.target.value)}
            />
          )}
        </Field>
        <div className="flex items-center gap-3">
          {picture && <Thumb brand={brand.slug} asset={picture} shape={1.91} className="w-[96px]" />}
          {isEditable && (
            <Button onClick={() => setChoosing(true)}>{picture ? "Another picture" : "An own picture"}</Button>
          )}
          {isEditable && card.isOwn && (
            <button
              type="button"
              className="label under h-6 hover:text-berry"
              onClick={() => {
                const { card_title: _, card_text: __, card_picture: ___, ...rest } = draft.options[profile.id] ?? {};
                change({ options: { ...draft.options, [profile.id]: rest } });
              }}
            >
              as the page has it again
            </button>
          )}
        </div>
      </div>
      <Picker
        isOpen={isChoosing}
        onClose={() => setChoosing(false)}
        title="A picture for the card"
        chosen={[]}
        onChosen={([one]) => one && put("card_picture", String(one))}
        kind="picture"
        most={1}
      />
    </details>
  );
}
