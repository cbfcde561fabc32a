import { Button } from "../../ui/Button";
import { Notice } from "../../ui/States";
import { type Draft, differences } from "./rules";

type Props = {
  mine: Draft;
  theirs: Draft;
  names: { profiles: Record<number, string>; campaigns: Record<number, string>; tags?: Record<number, string> };
  onTheirs: () => void;
  onMine: () => void;
};

/** Somebody saved while one was writing: both side by side, and nothing is thrown away before one says so. */
export function Differences({ mine, theirs, names, onTheirs, onMine }: Props) {
  const rows = differences(mine, theirs, names);
  return (
    <div className="my-2">
      <Notice kind="wrong">
        Somebody changed this post while you were writing. Nothing of yours is lost: compare, then choose.
      </Notice>
      {rows.length > 0 && (
        <div className="mt-1 overflow-x-auto">
          <table className="w-full border-collapse text-left align-top">
            <thead>
              <tr className="label border-b border-rule-strong">
                <th className="w-[110px] py-1 font-normal">What differs</th>
                <th className="py-1 pr-3 font-normal">Theirs, as saved</th>
                <th className="py-1 font-normal">Mine, not saved</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.what} className="rowline align-top">
                  <th scope="row" className="py-1 pr-3 font-normal text-muted">
                    {row.what}
                  </th>
                  <td className="whitespace-pre-wrap break-words py-1 pr-3">{row.theirs || "nothing"}</td>
                  <td className="whitespace-pre-wrap break-words py-1">{row.mine || "nothing"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button onClick={onTheirs}>Take theirs</Button>
        <Button onClick={onMine}>Go on with mine</Button>
      </div>
    </div>
  );
}
