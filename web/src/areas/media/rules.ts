/** Files' rules, apart from drawing. */

import type { Asset } from "./queries";

/** How long something runs, as clocks show it. */
export function secondsWords(seconds: number): string {
  const whole = Math.round(seconds);
  const [hours, minutes] = [Math.floor(whole / 3600), Math.floor((whole % 3600) / 60)];
  const rest = String(whole % 60).padStart(2, "0");
  return hours ? `${hours}:${String(minutes).padStart(2, "0")}:${rest}` : `${minutes}:${rest}`;
}

export function sizeWords(bytes: number): string {
  if (bytes < 1_000) return `${bytes} B`;
  if (bytes < 1_000_000) return `${Math.round(bytes / 1_000)} kB`;
  return `${(bytes / 1_000_000).toFixed(bytes < 10_000_000 ? 1 : 0)} MB`;
}

/** What a file is, in words. */
export function factsOf(asset: Asset): string {
  const told = [
    asset.width && asset.height ? `${asset.width} × ${asset.height}` : "",
    asset.seconds ? secondsWords(asset.seconds) : "",
    sizeWords(asset.size),
  ];
  return told.filter(Boolean).join(", ");
}

export const WHAT = { picture: "picture", video: "video", document: "document" } as const;
export const TAKEN = "image/jpeg,image/png,image/webp,image/gif,video/mp4,video/webm,application/pdf";

/** The files in what was dropped or pasted. */
export function filesIn(data: DataTransfer | null): File[] {
  return [...(data?.files ?? [])];
}

export type Box = { left: number; top: number; width: number; height: number };

/** The largest box of a shape within a picture, around a point; parts of the picture. */
export function boxAround(width: number, height: number, shape: number, x: number, y: number): Box {
  const wide = Math.min(1, (height * shape) / width);
  const high = Math.min(1, width / shape / height);
  return {
    left: Math.min(Math.max(0, x - wide / 2), 1 - wide),
    top: Math.min(Math.max(0, y - high / 2), 1 - high),
    width: wide,
    height: high,
  };
}
