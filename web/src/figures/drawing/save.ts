/** A figure of a page as a picture, drawn from what stands on the screen: any drawing, with its fonts and colours. */

import { download } from "../../charts/save";

/** Save it as SVG or as PNG at twice its size. A picture of another address that cannot be read is left out. */
export async function saveFigure(figure: HTMLElement, form: "svg" | "png", name: string): Promise<void> {
  // Fetched when a figure is first saved.
  const { toBlob, toSvg } = await import("html-to-image");
  const ground = getComputedStyle(figure).getPropertyValue("--sheet-ground").trim() || "#ffffff";
  const options = { backgroundColor: ground, pixelRatio: 2, cacheBust: false, imagePlaceholder: NOTHING };
  if (form === "png") {
    const made = await toBlob(figure, options);
    if (!made) throw new Error("This figure could not be drawn. Make it smaller and try again.");
    return download(made, `${name}.png`);
  }
  const address = await toSvg(figure, options);
  const text = decodeURIComponent(address.slice(address.indexOf(",") + 1));
  download(new Blob([text], { type: "image/svg+xml" }), `${name}.svg`);
}

// One clear dot.
const NOTHING = "data:image/gif;base64,R0lGODlhAQABAAAAACH5BAEKAAEALAAAAAABAAEAAAICTAEAOw==";
