import { longDay } from "../../lib/days";
import { figure } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { inputLook } from "../../ui/Field";
import { type Preview, useSettleFile } from "./queries";

/** Where the dates can be read in more than one order: the first of them under each, and the choice. */
export function DateQuestion({ preview }: { preview: Preview }) {
  const { brand, can } = useBrand();
  const canChange = can("sources.files");
  const settle = useSettleFile(brand.slug, preview.item.id);
  if (preview.options.date_order || preview.date_choices.length === 0) return null;
  const whole = (read: string) => (read ? longDay(read.slice(0, 10)) : "no date");
  return (
    <div className="mt-2 flex flex-wrap gap-3" role="group" aria-label="In which order are the dates written?">
      {preview.date_choices.map((choice) => (
        <div key={choice.order} className="border border-rule-strong bg-panel px-3 py-2">
          <p className="font-semibold">{choice.name}</p>
          <ul className="my-1">
            {choice.rows.map((row) => (
              <li key={row.written}>
                <span className="text-muted">{row.written}</span> is {whole(row.read)}
              </li>
            ))}
          </ul>
          {canChange && (
            <Button isBusy={settle.isPending} onClick={() => settle.mutate({ options: { date_order: choice.order } })}>
              Read them so
            </Button>
          )}
        </div>
      ))}
    </div>
  );
}

export type AccountChoice = { profile_id?: number; what?: "make" | "leave"; on?: string };

/** The accounts that the rows name: which profile each is, whether one is made, or its rows are left out. */
export function Accounts({
  preview,
  profiles,
  choices,
  onChoose,
}: {
  preview: Preview;
  profiles: { id: number; name: string; network: string }[];
  choices: Record<number, AccountChoice>;
  onChoose: (place: number, choice: AccountChoice) => void;
}) {
  return (
    <table className="w-full">
      <thead className="label text-left">
        <tr>
          <th className="pr-3 font-normal">Account in the file</th>
          <th className="pr-3 text-right font-normal">Rows</th>
          <th className="font-normal">are of</th>
        </tr>
      </thead>
      <tbody>
        {preview.accounts.map((account, place) => {
          const name = [account.handle, account.network].filter(Boolean).join(" on ");
          const choice = choices[place] ?? (account.profile_id ? { profile_id: account.profile_id } : {});
          return (
            <tr key={`${account.network} ${account.handle}`} className="rowline">
              <td className="max-w-[220px] truncate py-0.5 pr-3" title={name}>
                <label htmlFor={`account-${place}`}>{name}</label>
              </td>
              <td className="py-0.5 pr-3 text-right">{figure(account.rows)}</td>
              <td className="flex gap-2 py-0.5">
                <select
                  id={`account-${place}`}
                  className={inputLook}
                  value={choice.what ?? choice.profile_id ?? ""}
                  onChange={(e) => {
                    const value = e.target.value;
                    onChoose(
                      place,
                      value === "make" || value === "leave"
                        ? { what: value }
                        : value
                          ? { profile_id: Number(value) }
                          : {},
                    );
                  }}
                >
                  <option value="">choose</option>
                  {profiles.map((p) => (
                    <option key={p.id} value={p.id}>
                      {p.name} on {p.network}
                    </option>
                  ))}
                  <option value="make">a profile that is made now</option>
                  <option value="leave">nobody: left out</option>
                </select>
                {choice.what === "make" && !account.network && (
                  <input
                    aria-label={`Network of ${name}`}
                    placeholder="its network"
                    className={`${inputLook} w-36`}
                    value={choice.on ?? ""}
                    onChange={(e) => onChoose(place, { ...choice, on: e.target.value })}
                  />
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
