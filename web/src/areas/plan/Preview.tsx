import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useBrand, useNetwork } from "../../study/brand";
import { NetworkMark } from "../../ui/Marks";
import { Thumb, useAssetsOf } from "../media";
import { usePage } from "./queries";
import { addressOf, cardOf, type Draft, partOf } from "./rules";

type Props = { draft: Draft; profile: Schemas["Profile"]; hasFirstComment: boolean };
const WIDTH = { phone: 300, desktop: 460 };

/** How a version will read on a phone and on a desk, drawn neutrally: its words, its pictures in the network's shape. */
export function Preview({ draft, profile, hasFirstComment }: Props) {
  const { brand } = useBrand();
  const network = useNetwork(profile.network);
  const [form, setForm] = useState<keyof typeof WIDTH>("phone");
  const text = partOf(draft, profile.id, "text");
  const headline = partOf(draft, profile.id, "headline");
  const comment = partOf(draft, profile.id, "comment");
  const media = partOf(draft, profile.id, "media");
  const assets = useAssetsOf(brand.slug, media);
  const address = addressOf(draft, profile.id);
  const page = usePage(brand.slug, media.length === 0 ? address : undefined).data;
  const own = cardOf(draft, profile.id);
  const isOwn = own.isOwn && network.offer.has_own_preview && media.length === 0 && address !== undefined;
  const [ownPicture] = useAssetsOf(brand.slug, isOwn && own.picture ? [own.picture] : []);
  const title = (isOwn && own.title) || (page?.problem ? "" : page?.title);
  const description = (isOwn && own.text) || page?.description;
  const videos = assets.filter((one) => one?.kind === "video");
  // A picture beside a video is its still, where the network takes one.
  const shown = videos.length && network.media?.has_still ? videos : assets;
  const button = draft.options[profile.id]?.button;
  return (
    <div>
      <div className="flex items-center gap-2">
        {(Object.keys(WIDTH) as (keyof typeof WIDTH)[]).map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={form === one}
            onClick={() => setForm(one)}
            className="h-7 px-1 aria-pressed:border-b-2 aria-pressed:border-berry"
          >
            {one === "phone" ? "Phone" : "Desk"}
          </button>
        ))}
        <span className="label">about as {network.name} will show it</span>
      </div>
      <article
        aria-label={`Preview on ${network.name}`}
        className="mt-2 max-w-full border border-rule-strong bg-paper"
        style={{ width: WIDTH[form] }}
      >
        <header className="flex items-center gap-2 px-3 py-2">
          <NetworkMark network={network} />
          <span className="min-w-0 truncate font-semibold">{profile.name}</span>
        </header>
        {headline && (network.title_limit ?? 0) > 0 && <h3 className="px-3 pb-1 text-[16px]">{headline}</h3>}
        <p className="whitespace-pre-wrap break-words px-3 pb-2">
          {text ? <Marked text={text} /> : <span className="text-muted">Nothing written yet.</span>}
        </p>
        {shown.length > 0 && (
          <div className={`grid gap-px ${shown.length > 1 ? "stays grid-cols-2" : ""}`}>
            {shown.slice(0, 4).map((asset, i) => (
              <div key={media[i] ?? i} className="relative">
                <Thumb
                  brand={brand.slug}
                  asset={asset}
                  shape={shapeFor(asset, network.media, shown.length > 1)}
                  className="w-full"
                />
                {i === 3 && shown.length > 4 && (
                  <span className="absolute inset-0 flex items-center justify-center bg-paper/70 text-[18px]">
                    and {shown.length - 4} more
                  </span>
                )}
              </div>
            ))}
          </div>
        )}
        {page && title && (
          <div className="border-t border-rule px-3 py-2">
            {ownPicture && <Thumb brand={brand.slug} asset={ownPicture} shape={1.91} className="mb-2 w-full" />}
            <span className="label block">{page.host}</span>
            <span className="font-semibold">{title}</span>
            {description && <span className="line-clamp-2 text-muted">{description}</span>}
          </div>
        )}
        {button && <p className="border-t border-rule px-3 py-1.5 font-semibold">{button}</p>}
        {comment && hasFirstComment && (
          <p className="whitespace-pre-wrap break-words border-t border-rule px-3 py-2">
            <span className="font-semibold">{profile.name}</span> <Marked text={comment} />
          </p>
        )}
      </article>
      {page && (page.problem || page.status >= 400) && (
        <p role="status" className="mt-2 max-w-[460px] text-down">
          {page.status >= 400 ? `The page behind the link answers ${page.status}. ` : ""}
          {page.problem}
        </p>
      )}
    </div>
  );
}

type Rule = { narrowest?: number | null; widest?: number | null };

/** The shape a file is shown in: its own, as far as the network takes it; squares where several stand together. */
function shapeFor(asset: Schemas["Asset"] | undefined, rule: Rule | undefined, isAlbum: boolean): number {
  const own = asset?.width && asset.height ? asset.width / asset.height : 1;
  const fitting = Math.min(rule?.widest ?? 10, Math.max(rule?.narrowest ?? 0.1, own));
  if (isAlbum) return 1;
  return asset?.kind === "video" ? own : fitting;
}

/** Words with addresses, hashtags and mentions set apart. */
function Marked({ text }: { text: string }) {
  return text.split(/(https?:\/\/\S+|[#@][\p{L}\p{N}_.]+)/gu).map((part, i) =>
    /^(https?:|[#@][\p{L}\p{N}_])/u.test(part) ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: parts of one text, in their order
      <span key={i} className="text-berry">
        {part}
      </span>
    ) : (
      part
    ),
  );
}
