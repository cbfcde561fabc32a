/** Colours that can be read on their ground (WCAG 2.2, 1.4.3 and its definitions of luminance and contrast). */

type Rgb = [number, number, number];

const read = (hex: string): Rgb => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)) as Rgb;
const write = (rgb: Rgb) => `#${rgb.map((v) => Math.round(v).toString(16).padStart(2, "0")).join("")}`;

/** Relative luminance, from 0 (black) to 1 (white). */
export function luminance(hex: string): number {
  const [r, g, b] = read(hex).map((v) => {
    const c = v / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  }) as Rgb;
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** The contrast of two colours, from 1 to 21. */
export function contrast(a: string, b: string): number {
  const [low, high] = [luminance(a), luminance(b)].sort((x, y) => x - y) as [number, number];
  return (high + 0.05) / (low + 0.05);
}

/** A colour moved towards black or white, as little as it takes to be read on its ground. */
export function readable(colour: string, ground: string, least = 4.5): string {
  const target: Rgb = luminance(ground) > 0.18 ? [0, 0, 0] : [255, 255, 255];
  for (let step = 0; step <= 20; step++) {
    const mixed = write(read(colour).map((v, i) => v + ((target[i] as number) - v) * (step / 20)) as Rgb);
    if (contrast(mixed, ground) >= least) return mixed;
  }
  return write(target);
}

/** Two colours mixed: share of the second. */
export function mixed(a: string, b: string, share: number): string {
  const [one, other] = [read(a), read(b)];
  return write(one.map((v, i) => v + ((other[i] as number) - v) * share) as Rgb);
}
