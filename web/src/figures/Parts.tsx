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
  const done = doneWith(basis);
  return (
    <>
      {done && <p className="label">{done}.</p>}
      <ul>
        {shown.map((line) => (
          <li key={line.key} className="rowline flex items-center justify-between gap-3 py-1">
            <span className="min-w-0 flex-1">
              <Cut>{line.name}</Cut>
            </span>
            {line.share !== null && (
              <>
                <CellBar value={line.share} max={max} />
                <span className="label w-20 text-right">{line.hint}</span>
              </>
            )}
            <b className="text-right">{line.text}</b>
          </li>
        ))}
      </ul>
      {shown.length < lines.length && (
        <button type="button" className="under mt-1 hover:text-berry" onClick={() => setWhole(true)}>
          {plural(lines.length - shown.length, "part")} more
        </button>
      )}
    </>
  );
}
