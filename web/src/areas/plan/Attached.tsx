import { ChevronLeft, ChevronRight, Pencil, X } from "lucide-react";
import { type DragEvent, useState } from "react";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { type Asset, EditSheet, filesIn, Picker, Thumb, useAssetsOf, type useBringing } from "../media";

type Props = {
  media: number[];
  isEditable: boolean;
  onMedia: (media: number[]) => void;
  /** Brought by being dropped or pasted elsewhere on the page. */
  bringing: ReturnType<typeof useBringing>;
};

/** The files that go with it, in their order: dragged or moved by keys, opened to be worked on, taken out. */
export function Attached({ media, isEditable, onMedia, bringing }: Props) {
  const { brand } = useBrand();
  const assets = useAssetsOf(brand.slug, media);
  const [isChoosing, setChoosing] = useState(false);
  const [open, setOpen] = useState<Asset | null>(null);
  const [dragged, setDragged] = useState<number | null>(null);
  const move = (from: number, to: number) => {
    if (to < 0 || to >= media.length) return;
    const next = [...media];
    next.splice(to, 0, ...next.splice(from, 1));
    onMedia(next);
  };
  const drop = (event: DragEvent, to: number) => {
    event.preventDefault();
    const files = filesIn(event.dataTransfer);
    if (files.length) void bringing.go(files);
    else if (dragged !== null) move(dragged, to);
    setDragged(null);
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: "Pictures and videos" does the same by keyboard
    <div
      onDragOver={(event) => isEditable && event.preventDefault()}
      onDrop={(event) => isEditable && drop(event, media.length - 1)}
    >
      <div className="flex flex-wrap items-start gap-2">
        {media.map((id, i) => {
          const asset = assets[i];
          return (
            // biome-ignore lint/a11y/noStaticElementInteractions: the arrows beneath do the same by keyboard
            <div
              key={id}
              className="w-[104px]"
              draggable={isEditable}
              onDragStart={() => setDragged(i)}
              onDrop={(event) => {
                event.stopPropagation();
                drop(event, i);
              }}
            >
              <Thumb brand={brand.slug} asset={asset} shape={1} className="border border-rule-strong" />
              {asset?.state === "refused" && <p className="text-[12px] text-down">{asset.message}</p>}
              <div className="flex justify-between">
                {isEditable && (
                  <>
                    <Small
                      label={`Move ${asset?.name ?? "it"} forward`}
                      disabled={i === 0}
                      onClick={() => move(i, i - 1)}
                    >
                      <ChevronLeft size={14} />
                    </Small>
                    <Small
                      label={`Move ${asset?.name ?? "it"} back`}
                      disabled={i === media.length - 1}
                      onClick={() => move(i, i + 1)}
                    >
                      <ChevronRight size={14} />
                    </Small>
                  </>
                )}
                <Small
                  label={`Open ${asset?.name ?? "it"}`}
                  disabled={asset?.state !== "ready"}
                  onClick={() => asset && setOpen(asset)}
                >
                  <Pencil size={13} />
                </Small>
                {isEditable && (
                  <Small
                    label={`Take ${asset?.name ?? "it"} out`}
                    onClick={() => onMedia(media.filter((one) => one !== id))}
                  >
                    <X size={14} />
                  </Small>
                )}
              </div>
              {asset?.state === "ready" && asset.kind === "picture" && !asset.words && isEditable && (
                <button
                  type="button"
                  className="label under h-6 text-left hover:text-berry"
                  onClick={() => setOpen(asset)}
                >
                  say what is seen
                </button>
              )}
            </div>
          );
        })}
        {isEditable && (
          <div>
            <Button onClick={() => setChoosing(true)}>Pictures and videos</Button>
            {bringing.left > 0 && (
              <p role="status" className="label mt-1">
                {bringing.left} on the way
              </p>
            )}
          </div>
        )}
      </div>
      <Picker
        isOpen={isChoosing}
        onClose={() => setChoosing(false)}
        title="Pictures and videos"
        chosen={media}
        onChosen={onMedia}
      />
      <EditSheet
        asset={open}
        onClose={() => setOpen(null)}
        // A worked-on picture takes the first one's place; a still of a video comes beside it.
        onMade={(made) =>
          isEditable &&
          open &&
          onMedia(open.kind === "video" ? [...media, made.id] : media.map((id) => (id === open.id ? made.id : id)))
        }
      />
    </div>
  );
}

type SmallProps = { label: string; disabled?: boolean; onClick: () => void; children: React.ReactNode };

function Small({ label, disabled, onClick, children }: SmallProps) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={disabled}
      onClick={onClick}
      className="flex h-6 w-6 items-center justify-center hover:text-berry disabled:opacity-30"
    >
      {children}
    </button>
  );
}
