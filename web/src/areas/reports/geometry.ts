/** A page's measures in pixels: A4 across at 96 to the inch, so that screen and paper are the same. */

export const [WIDE, TALL] = [1123, 794];
export const [COLUMNS, ROWS, GAP] = [12, 8, 12];
const [PAD_X, PAD_Y, HEAD, FOOT, WORDS] = [44, 30, 52, 26, 88];

export type Place = { x: number; y: number; w: number; h: number };

/** Where things stand on a page; its words take room from the grid where it has any. */
export function measures(hasWords: boolean) {
  const top = PAD_Y + HEAD + (hasWords ? WORDS : 0);
  const height = TALL - top - PAD_Y - FOOT;
  const width = WIDE - 2 * PAD_X;
  return {
    padX: PAD_X,
    padY: PAD_Y,
    head: HEAD,
    foot: FOOT,
    words: WORDS,
    top,
    width,
    height,
    row: (height - (ROWS - 1) * GAP) / ROWS,
    column: (width - (COLUMNS - 1) * GAP) / COLUMNS,
  };
}

/** A place in pixels within the grid. */
export function box(place: Place, hasWords: boolean) {
  const { row, column } = measures(hasWords);
  return {
    left: place.x * (column + GAP),
    top: place.y * (row + GAP),
    width: place.w * column + (place.w - 1) * GAP,
    height: place.h * row + (place.h - 1) * GAP,
  };
}

export const touches = (a: Place, b: Place) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;
export const isOnPage = (a: Place) =>
  a.x >= 0 && a.y >= 0 && a.w >= 1 && a.h >= 1 && a.x + a.w <= COLUMNS && a.y + a.h <= ROWS;

/** The first free place of a size in reading order, else of a smaller one; null on a full page. */
export function freePlace(taken: Place[], w: number, h: number): Place | null {
  const sizes: [number, number][] = [];
  for (let a = Math.min(2, w); a <= w; a++) for (let b = Math.min(2, h); b <= h; b++) sizes.push([a, b]);
  sizes.sort((one, other) => other[0] * other[1] - one[0] * one[1]);
  for (const [a, b] of sizes)
    for (let y = 0; y + b <= ROWS; y++)
      for (let x = 0; x + a <= COLUMNS; x++) {
        const place = { x, y, w: a, h: b };
        if (!taken.some((one) => touches(one, place))) return place;
      }
  return null;
}
