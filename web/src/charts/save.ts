/** A chart as a file: the drawing with its title, what is studied and how its figure is defined. */

const STYLES = ["fill", "stroke", "stroke-width", "stroke-dasharray", "opacity", "font-size", "font-weight"];
const LINE = 18;
const SIDE = 16;

export type Caption = { title: string; lines: string[] };

/** Words broken into lines of about so many characters. */
export function wrapped(text: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(/\s+/)) {
    const last = lines.at(-1);
    if (last !== undefined && `${last} ${word}`.length <= most) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

export function escaped(text: string): string {
  return text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
}

/** The text of a file that stands alone: colours as they are now, the caption above and below. */
export function standalone(svg: SVGSVGElement, caption: Caption): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const from = [svg, ...svg.querySelectorAll("*")];
  const to = [copy, ...copy.querySelectorAll("*")];
  from.forEach((element, i) => {
    const style = getComputedStyle(element);
    const target = to[i] as Element;
    for (const name of STYLES) {
      const value = style.getPropertyValue(name);
      if (target.hasAttribute(name) || name === "fill") target.setAttribute(name, value);
    }
    target.removeAttribute("class");
  });
  const width = svg.width.baseVal.value;
  const height = svg.height.baseVal.value;
  const root = getComputedStyle(document.documentElement);
  const paper = root.getPropertyValue("--paper").trim() || "#fff";
  const ink = root.getPropertyValue("--ink").trim() || "#000";
  const below = caption.lines.flatMap((line) => wrapped(line, Math.floor(width / 6.6)));
  const top = 34;
  const whole = top + height + 14 + below.length * LINE;
  const font = 'font-family="Sofia Sans, sans-serif"';
  const words = below
    .map(
      (line, i) =>
        `<text x="${SIDE}" y="${top + height + 22 + i * LINE}" ${font} font-size="12.5" fill="${ink}">${escaped(line)}</text>`,
    )
    .join("");
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width + 2 * SIDE}" height="${whole}" viewBox="0 0 ${width + 2 * SIDE} ${whole}">` +
    `<title>${escaped(caption.title)}</title><desc>${escaped(caption.lines.join(" "))}</desc>` +
    `<rect width="100%" height="100%" fill="${paper}"/>` +
    `<text x="${SIDE}" y="23" ${font} font-size="16" font-weight="600" fill="${ink}">${escaped(caption.title)}</text>` +
    `<g transform="translate(${SIDE} ${top})" ${font}>${copy.innerHTML}</g>${words}</svg>`
  );
}

export function download(content: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

export async function saveChart(
  svg: SVGSVGElement,
  caption: Caption,
  form: "svg" | "png",
  name: string,
): Promise<void> {
  const text = standalone(svg, caption);
  if (form === "svg") return download(new Blob([text], { type: "image/svg+xml" }), `${name}.svg`);
  const image = new Image();
  await new Promise((done, fail) => {
    image.onload = done;
    image.onerror = () => fail(new Error("The chart could not be drawn as a picture."));
    // The page allows pictures of its own and data addresses, not blobs.
    image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  });
  const canvas = document.createElement("canvas");
  canvas.width = image.width * 2;
  canvas.height = image.height * 2;
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  const made = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/png"));
  if (made) download(made, `${name}.png`);
}
