import { useState } from "react";
import { plural } from "../lib/format";
import { Cut } from "../ui/Cut";
import { CellBar } from "../ui/Marks";
import type { Basis } from "./queries";
import { doneWith, linesOf } from "./rules";

const SHOWN = 6;

/** The parts of a figure; of many the first ones, the others on asking. */
export function Parts({ basis }: { basis: Basis }) {
  const [isWhole, setWhole] = useState(false);
  const lines = linesOf(basis);
  const shown = isWhole || lines.length <= SHOWN + 1 ? lines : lines.slice(0, SHOWN);
  const max = Math.max(0.0001, ...lines.map((line) => line.share ?? 0));
  const hasShares = lines.length > 1 && lines.some((line) => line.share !== null);
  const done = doneWith(basis);
  return (
    <>
      {done && <p className="label">{done}.</p>}
      <table className="w-full table-fixed">
        <tbody>
          {shown.map((line) => (
            <tr key={line.key} className="rowline h-7">
              <td className="pr-3">
                {/* Ways begin alike, and are told apart by where they go on. */}
                {basis.parts_name === "way" ? line.name : <Cut>{line.name}</Cut>}
              </td>
              {hasShares && (
                <>
                  <td className="w-[72px] narrow:hidden">
                    <CellBar value={line.share} max={max} />
                  </td>
                  <td className="label w-[84px] text-right narrow:w-[64px]">{line.hint}</td>
                </>
              )}
              <td className="w-[88px] text-right font-semibold">{line.text}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {shown.length < lines.length && (
        <button type="button" className="under mt-1 h-6 hover:text-berry" onClick={() => setWhole(true)}>
          {plural(lines.length - shown.length, "part")} more
        </button>
      )}
    </>
  );
}
