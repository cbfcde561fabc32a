import { FileText } from "lucide-react";
import { type Asset, contentOf } from "./queries";
import { secondsWords } from "./rules";

type Props = {
  brand: string;
  asset: Asset | undefined /** Width divided by height; without it the picture's own. */;
  shape?: number;
  className?: string;
};

/** A file as it is looked through: its picture around its focus, how long it runs, or why it cannot be shown. */
export function Thumb({ brand, asset, shape, className = "" }: Props) {
  const frame = `relative block overflow-hidden bg-wash ${className}`;
  const style = shape ? { aspectRatio: String(shape) } : undefined;
  if (!asset) return <span className={frame} style={style} />;
  if (asset.state !== "ready") {
    const isWrong = asset.state === "refused";
    return (
      <span className={`${frame} flex items-center justify-center p-1 text-center text-[12px]`} style={style}>
        <span className={isWrong ? "text-down" : "text-muted"}>{isWrong ? "refused" : "being looked into"}</span>
      </span>
    );
  }
  if (asset.kind === "document") {
    return (
      <span className={`${frame} flex flex-col items-center justify-center gap-1 p-1`} style={style}>
        <FileText size={22} aria-hidden="true" />
        <span className="max-w-full truncate text-[11.5px]">{asset.name}</span>
      </span>
    );
  }
  return (
    <span className={frame} style={style}>
      <img
        src={contentOf(brand, asset.id, "preview")}
        alt={asset.words || asset.name}
        loading="lazy"
        decoding="async"
        className={shape ? "h-full w-full object-cover" : "block h-full w-full object-contain"}
        style={{ objectPosition: `${asset.focus_x * 100}% ${asset.focus_y * 100}%` }}
      />
      {asset.kind === "video" && (
        <span className="absolute right-1 bottom-1 bg-paper/90 px-1 text-[11.5px]">
          {secondsWords(asset.seconds ?? 0)}
        </span>
      )}
    </span>
  );
}
