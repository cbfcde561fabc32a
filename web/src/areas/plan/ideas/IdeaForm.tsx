import { useCallback, useRef } from "react";
import { IdeaGroupField } from "../../../study/KeepIdea";
import { Field } from "../../../ui/Field";
import { type Asset, useBringing } from "../../media";
import { Attached } from "../Attached";
import { CampaignField } from "../CampaignField";
import { ProfileBoxes } from "../ProfileBoxes";
import type { IdeaContent } from "./queries";

type Props = {
  content: IdeaContent;
  isEditable: boolean;
  errors: Record<string, string>;
  change: (patch: Partial<IdeaContent>) => void;
};

/** What an idea is: in a few words, with a note, a page, pictures, and the profiles it is meant for. */
export function IdeaForm({ content, isEditable, errors, change }: Props) {
  const wishes = content.wishes ?? [];
  const media = content.media ?? [];
  const latest = useRef({ media, change });
  latest.current = { media, change };
  const bringing = useBringing(
    useCallback((asset: Asset) => {
      const { media: now, change: put } = latest.current;
      if (!now.includes(asset.id)) put({ media: [...now, asset.id] });
    }, []),
  );
  return (
    <div className="flex flex-col gap-3">
      <Field label="The idea in a few words" error={errors.title}>
        {(props) => (
          <input
            {...props}
            disabled={!isEditable}
            maxLength={200}
            value={content.title}
            onChange={(event) => change({ title: event.target.value })}
          />
        )}
      </Field>
      <Field label="Note" help="For the team; it is not put into the post." error={errors.note}>
        {(props) => (
          <textarea
            {...props}
            disabled={!isEditable}
            rows={4}
            maxLength={10_000}
            className={`${props.className} h-auto py-1`}
            value={content.note}
            onChange={(event) => change({ note: event.target.value })}
          />
        )}
      </Field>
      <Field label="Page" help="What a post of it would link to" error={errors.page}>
        {(props) => (
          <input
            {...props}
            type="url"
            disabled={!isEditable}
            maxLength={2000}
            value={content.page}
            onChange={(event) => change({ page: event.target.value })}
          />
        )}
      </Field>
      <div className="grid grid-cols-2 gap-3">
        <IdeaGroupField
          value={content.group ?? null}
          onChange={(group) => change({ group })}
          error={errors.group}
          disabled={!isEditable}
        />
        <CampaignField
          value={content.campaign ?? null}
          onChange={(campaign) => change({ campaign })}
          error={errors.campaign}
          disabled={!isEditable}
        />
      </div>
      <ProfileBoxes
        legend="Meant for"
        chosen={wishes}
        isEditable={isEditable}
        error={errors.wishes}
        onChange={(next) => change({ wishes: next })}
      />
      <div>
        <h3 className="text-[13px] font-semibold">Pictures</h3>
        <Attached
          media={media}
          isEditable={isEditable}
          onMedia={(next) => change({ media: next })}
          bringing={bringing}
        />
        {errors.media && <p className="text-down">{errors.media}</p>}
      </div>
    </div>
  );
}
