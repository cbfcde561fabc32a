import { useState } from "react";
import { Link } from "react-router";
import { since } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { useAddress } from "../../../study/useAddress";
import { Button } from "../../../ui/Button";
import { Cut } from "../../../ui/Cut";
import { StateWord } from "../../../ui/Marks";
import { Empty, Failed, Loading } from "../../../ui/States";
import { useAccount } from "../queries";
import { HookSheet } from "./HookSheet";
import { OneHook } from "./OneHook";
import { useWebhooks, type WebHook } from "./queries";
import { standing } from "./rules";

/** Addresses of other programs that are told what happens in the brand, and what became of each telling. */
export function WebhooksPage() {
  const { brand } = useBrand();
  const { params, set } = useAddress();
  const account = useAccount();
  const found = useWebhooks(brand.slug);
  const [isMaking, setMaking] = useState(false);
  const error = account.error ?? found.error;
  if (error) return <Failed error={error} onRetry={() => Promise.all([account.refetch(), found.refetch()])} />;
  if (!account.data || !found.data) return <Loading what="Loading webhooks" />;
  const { webhooks, kinds } = found.data;
  const open = webhooks.find((one) => one.id === Number(params.get("hook"))) ?? webhooks[0];
  return (
    <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="webhooks-title">
      <Link to={`/${brand.slug}/team`} className="label under inline-flex h-6 items-center hover:text-berry">
        The team
      </Link>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 id="webhooks-title" className="text-[18px] leading-6">
          Other programs that are told what happens
        </h1>
        {webhooks.length > 0 && (
          <Button kind="quiet" onClick={() => setMaking(true)}>
            Tell another one
          </Button>
        )}
      </div>
      <p className="max-w-3xl text-muted">
        When a post goes out, a file comes in or something is found, Dakika sends it to an address of yours, signed (RFC
        9421), so that the program there knows who speaks. What is not taken is tried again for two and a half days.{" "}
        <a href="/api/reference#webhooks" target="_blank" rel="noreferrer" className="under hover:text-berry">
          How to check a signature
        </a>
      </p>
      {webhooks.length === 0 ? (
        <Empty
          title="No other program is told anything"
          action={
            <Button kind="main" onClick={() => setMaking(true)}>
              Tell one
            </Button>
          }
        >
          Here stand addresses that are told, and each event they were told of: a shop that wants to know of a new post,
          a chat of the team, a table that fills itself. All it takes is an address that begins with https://.
        </Empty>
      ) : (
        <>
          <HookTable webhooks={webhooks} open={open?.id ?? 0} onOpen={(id) => set("hook", String(id))} />
          {open && <OneHook key={open.id} hook={open} kinds={kinds} account={account.data} />}
        </>
      )}
      {isMaking && <HookSheet kinds={kinds} account={account.data} onClose={() => setMaking(false)} />}
    </section>
  );
}

type TableProps = { webhooks: WebHook[]; open: number; onOpen: (id: number) => void };

function HookTable({ webhooks, open, onOpen }: TableProps) {
  const { now } = useBrand();
  return (
    <table className="mt-3 w-full table-fixed">
      <thead className="label text-left">
        <tr className="rowline h-7">
          <th className="font-normal">Name</th>
          <th className="w-[32%] font-normal narrow:hidden">Address</th>
          <th className="w-[180px] font-normal">How it stands</th>
          <th className="w-[150px] font-normal narrow:hidden">Took something last</th>
        </tr>
      </thead>
      <tbody>
        {webhooks.map((one) => {
          const { tone, words } = standing(one);
          return (
            <tr key={one.id} className={`rowline h-9 ${one.id === open ? "bg-panel" : ""}`}>
              <td>
                <button
                  type="button"
                  aria-pressed={one.id === open}
                  onClick={() => onOpen(one.id)}
                  className={`block w-full text-left hover:text-berry ${one.id === open ? "font-semibold" : "under"}`}
                >
                  <Cut>{one.name}</Cut>
                </button>
              </td>
              <td className="narrow:hidden">
                <Cut>{one.address}</Cut>
              </td>
              <td>
                <StateWord tone={tone}>{words}</StateWord>
              </td>
              <td className="narrow:hidden">
                {one.taken_at ? since(one.taken_at, now) : <span className="label">never</span>}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
