import { useState } from "react";
import { plural } from "../../lib/format";
import { useBrand, useNetwork } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Failed, Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { useChooseAccounts, useConnection } from "./queries";

/** The accounts that a consent covers; what cannot be connected says why. */
export function ChooseAccounts({ id, onDone }: { id: number; onDone: () => void }) {
  const { brand } = useBrand();
  const connection = useConnection(brand.slug, id);
  const choose = useChooseAccounts(brand.slug);
  const [chosen, setChosen] = useState<string[]>([]);
  const say = useToast();
  const network = useNetwork(connection.data?.network ?? "");
  if (connection.error) return <Failed error={connection.error} />;
  if (!connection.data) return <Loading what="Asking the network" lines={3} />;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        choose.mutate(
          { id, external_ids: chosen },
          {
            onSuccess: () => {
              say(
                `${plural(chosen.length, "profile is", "profiles are")} connected; their history is being collected.`,
              );
              onDone();
            },
          },
        );
      }}
    >
      {choose.error && <Notice kind="wrong">{choose.error.message}</Notice>}
      {!connection.data.may_publish && network.offer.has_publishing && (
        <Notice>
          Publishing was left unticked at {network.name}: figures will be collected, posts cannot go out from here.
        </Notice>
      )}
      {connection.data.offered.map((account) => (
        <label
          key={account.external_id}
          className={`rowline flex items-center gap-3 py-2 ${account.refusal ? "opacity-70" : "cursor-pointer"}`}
        >
          <input
            type="checkbox"
            disabled={!!account.refusal}
            checked={chosen.includes(account.external_id)}
            onChange={(e) =>
              setChosen(
                e.target.checked
                  ? [...chosen, account.external_id]
                  : chosen.filter((one) => one !== account.external_id),
              )
            }
            className="h-4 w-4 accent-[var(--berry)]"
          />
          <img src={account.picture || undefined} alt="" width="36" height="36" className="h-9 w-9 bg-rule" />
          <span className="flex-1">
            <span className="block font-semibold">{account.name}</span>
            <span className="label">
              {account.refusal ||
                `${plural(account.followers, "follower")}${account.is_connected ? "; connected already, this renews it" : ""}`}
            </span>
          </span>
        </label>
      ))}
      <Button kind="main" type="submit" disabled={chosen.length === 0} isBusy={choose.isPending} className="mt-4">
        {chosen.length === 0 ? "Connect" : `Connect ${plural(chosen.length, "profile")}`}
      </Button>
    </form>
  );
}
