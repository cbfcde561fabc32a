import { useState } from "react";
import type { DrawingProps } from "./FigureDrawing";
import type { RowAbout } from "./set";

const [WIDE, LINE, FIGURES] = [168, 17, 22];

/** Posts or findings as cards: its picture, what it says, when and where, and its figures. As many as there is room for. */
export function Cards({ set, numbers, rows, width, height, shown }: DrawingProps) {
  const abouts = set.rows ?? [];
  const hasPictures = abouts.some((one) => one.picture !== "");
  // Without pictures a card is a few lines of text: wider ones, one under the other.
  const columns = Math.max(1, Math.min(abouts.length, Math.floor(width / (hasPictures ? WIDE : WIDE * 1.6))));
  const least = hasPictures ? 190 : 92;
  const lines = Math.max(1, Math.min(Math.floor(height / least), Math.ceil(Math.min(rows, abouts.length) / columns)));
  const told = abouts.slice(0, Math.min(rows, columns * lines));
  const each = Math.min(hasPictures ? 320 : 110, (height - 8 * (lines - 1)) / lines);
  return (
    <ul className="grid gap-2" style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}>
      {told.map((one) => {
        const cells = set.cells.filter((cell) => cell.row === one.row);
        const figures = cells.length > 0 ? FIGURES * Math.min(2, cells.length) : 0;
        // A post without a picture has more of its words instead.
        const picture = one.picture ? Math.max(40, Math.min(130, each - figures - 4 * LINE)) : 0;
        const text = Math.max(1, Math.floor((each - figures - picture - (one.at || one.detail ? LINE : 0) - 6) / LINE));
        return (
          <li
            key={one.row}
            className="flex min-w-0 flex-col overflow-hidden border-t-2 pt-1 text-[13px] leading-[17px]"
            style={{ height: each, borderColor: "var(--sheet-rule)" }}
          >
            {one.picture && <Picture address={one.picture} height={picture} />}
            <span
              className="overflow-hidden"
              style={{ display: "-webkit-box", WebkitBoxOrient: "vertical", WebkitLineClamp: text }}
              title={one.text}
            >
              {one.text || "–"}
            </span>
            {(one.at || one.detail) && (
              <span className="truncate text-[11px]" style={{ color: "var(--sheet-muted)" }}>
                {[whenOf(one, numbers.moment), one.detail].filter(Boolean).join(", ")}
              </span>
            )}
            <dl className="mt-auto">
              {cells.slice(0, 2).map((cell) => (
                <div key={cell.key} className="flex items-baseline justify-between gap-2">
                  <dt className="truncate text-[11px]" style={{ color: "var(--sheet-muted)" }}>
                    {cell.column}
                  </dt>
                  <dd className="font-semibold">
                    {shown(cell, numbers.figure(cell.now.value, cell.unit))}
                    {cell.now.interval && (
                      <span className="ml-1 text-[11px] font-normal" style={{ color: "var(--sheet-muted)" }}>
                        {numbers.figure(cell.now.interval.low, cell.unit)}–
                        {numbers.figure(cell.now.interval.high, cell.unit)}
                      </span>
                    )}
                  </dd>
                </div>
              ))}
            </dl>
          </li>
        );
      })}
    </ul>
  );
}

const whenOf = (one: RowAbout, moment: (at: string) => string) => (one.at ? moment(one.at) : "");

/** A post's picture; one that does not come leaves its ground. */
function Picture({ address, height }: { address: string; height: number }) {
  const [isGone, setGone] = useState(false);
  if (isGone) return <span className="mb-1 block" style={{ height, background: "var(--sheet-rule)", opacity: 0.5 }} />;
  return (
    <img
      src={address}
      alt=""
      className="mb-1 w-full object-cover"
      style={{ height }}
      onError={() => setGone(true)}
      referrerPolicy="no-referrer"
    />
  );
}
