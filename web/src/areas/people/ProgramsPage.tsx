import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { moment } from "../../lib/days";
import { since } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { ROLE_WORDS, ROLES, type Role } from "../../study/permissions";
import { Button } from "../../ui/Button";
import { CopyButton } from "../../ui/CopyButton";
import { Cut } from "../../ui/Cut";
import { CheckEntry, ChecksEntry, Entry, Form } from "../../ui/Form";
import { StateWord } from "../../ui/Marks";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading, Notice } from "../../ui/States";
import {
  type Account,
  makeProgram,
  makeToken,
  type Program,
  type Token,
  useAccount,
  useDone,
  usePrograms,
  useRevokeProgram,
  useRevokeToken,
  useTeam,
  useTokens,
} from "./queries";
import { NotSure, useSure } from "./useSure";
import { useZone } from "./useZone";

/** What programs ask with: one's own tokens, and programs of the brand that are nobody's. */
export function ProgramsPage() {
  const { brand, can } = useBrand();
  const decides = can("brand.people");
  const account = useAccount();
  const tokens = useTokens();
  const programs = usePrograms(brand.slug, decides);
  const [making, setMaking] = useState<"token" | "program" | null>(null);
  const revoke = useRevokeToken();
  const shut = useRevokeProgram(brand.slug);
  const error = account.error ?? tokens.error ?? programs.error;
  if (error) return <Failed error={error} onRetry={() => Promise.all([account.refetch(), tokens.refetch()])} />;
  if (!account.data || !tokens.data || (decides && !programs.data)) return <Loading what="Loading tokens" />;
  return (
    <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="programs-title">
      <Link to={`/${brand.slug}/team`} className="label under inline-flex h-6 items-center hover:text-berry">
        The team
      </Link>
      <h1 id="programs-title" className="text-[18px] leading-6">
        What programs ask with
      </h1>
      <p className="max-w-3xl text-muted">
        A program sends its token with each request: <code>Authorization: Bearer dakika_…</code>. It may what its token
        was made for, as far as its role goes; up to 600 requests a minute. What it does stands in the log under its
        name.{" "}
        <a href="/api/reference" target="_blank" rel="noreferrer" className="under hover:text-berry">
          Everything it can ask, with examples
        </a>
      </p>
      {decides && (
        <section aria-label="Programs of the brand" className="mt-4">
          <div className="flex items-baseline gap-4">
            <h2 className="text-[16px]">Programs of {brand.name}</h2>
            <Button kind="quiet" onClick={() => setMaking("program")}>
              Let one in
            </Button>
          </div>
          <p className="label">Nobody's own: they stay when whoever made them leaves.</p>
          <Tokens tokens={programs.data ?? []} none="No program comes in." onRevoke={(pk) => shut.mutate(pk)} />
        </section>
      )}
      <section aria-label="Your tokens" className="mt-5">
        <div className="flex items-baseline gap-4">
          <h2 className="text-[16px]">Your own tokens</h2>
          <Button kind="quiet" onClick={() => setMaking("token")}>
            Make one
          </Button>
        </div>
        <p className="label">A program that asks with one acts as you, and ends with your part in the team.</p>
        <Tokens tokens={tokens.data} none="You have none." onRevoke={(pk) => revoke.mutate(pk)} />
      </section>
      {(revoke.error ?? shut.error) && <Notice kind="wrong">{(revoke.error ?? shut.error)?.message}</Notice>}
      {making && <MakeSheet what={making} account={account.data} onClose={() => setMaking(null)} />}
    </section>
  );
}

type TokensProps = { tokens: (Token | Program)[]; none: string; onRevoke: (pk: number) => void };

function Tokens({ tokens, none, onRevoke }: TokensProps) {
  const zone = useZone();
  const { now } = useBrand();
  if (tokens.length === 0) return <p className="mt-1">{none}</p>;
  return (
    <table className="mt-1 w-full table-fixed">
      <thead className="label text-left">
        <tr className="rowline h-7">
          <th className="font-normal">Name</th>
          <th className="w-[90px] font-normal narrow:hidden">Ends in</th>
          <th className="w-[130px] font-normal narrow:hidden">Opens</th>
          <th className="w-[160px] font-normal narrow:hidden">May do</th>
          <th className="w-[150px] font-normal">Until</th>
          <th className="w-[150px] font-normal narrow:hidden">Last used</th>
          <th className="w-[90px] font-normal">
            <span className="sr-only">Take away</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {tokens.map((one) => (
          <tr key={one.id} className="rowline h-9">
            <td>
              <Cut>{one.name}</Cut>
            </td>
            <td className="narrow:hidden">
              <code>…{one.hint}</code>
            </td>
            <td className="truncate narrow:hidden">
              {"role" in one ? `as ${one.role}` : one.brand || "all your brands"}
            </td>
            <td className="truncate narrow:hidden" title={one.scopes.join(", ")}>
              {one.scopes.length === 1 ? one.scopes[0] : `${one.scopes.length} kinds of things`}
            </td>
            <td>{one.is_over ? <StateWord tone="wrong">over</StateWord> : moment(one.until, zone)}</td>
            <td className="truncate narrow:hidden" title={one.used_from}>
              {one.used_at ? (
                `${since(one.used_at, now)} from ${one.used_from}`
              ) : (
                <span className="label">not yet</span>
              )}
            </td>
            <td className="text-right">
              <Button kind="quiet" onClick={() => onRevoke(one.id)}>
                Take away<span className="sr-only"> {one.name}</span>
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const LASTS = { 30: "a month", 90: "three months", 366: "a year" };

function MakeSheet({ what, account, onClose }: { what: "token" | "program"; account: Account; onClose: () => void }) {
  const { brand } = useBrand();
  const team = useTeam(brand.slug);
  const { surely, dialog } = useSure(account);
  const form = useForm({
    defaultValues: { name: "", days: 90, role: "analyst" as Role, isEverywhere: false, scopes: ["brand.read"] },
  });
  const { name, days, role, isEverywhere, scopes } = form.watch();
  const mine = what === "program" ? role : (brand.role as Role);
  const offered = (team.data?.permissions ?? []).filter((one) => one.roles.includes(mine));
  const chosen = scopes.filter((one) => offered.some((row) => row.name === one));
  const make = useDone(() =>
    surely(() =>
      what === "program"
        ? makeProgram(brand.slug, { name, days, scopes: chosen, role: role as "analyst" })
        : makeToken({ name, days, scopes: chosen, brand: isEverywhere ? "" : brand.slug }),
    ),
  );
  const tokens = useTokens();
  const programs = usePrograms(brand.slug, what === "program");
  const title = what === "program" ? `A program of ${brand.name}` : "A token of your own";
  if (make.data)
    return (
      <Sheet isOpen title={title} onClose={onClose}>
        <Notice kind="good">This is its token. It is shown now and never again.</Notice>
        <p className="my-3 flex items-center gap-2">
          <code className="min-w-0 break-all">{make.data.told}</code>
          <CopyButton text={make.data.told} said="The token is copied." />
        </p>
        <p className="label">Try it:</p>
        <pre className="overflow-x-auto bg-paper p-2 text-[12px]">
          {`curl -H "Authorization: Bearer $TOKEN" \\\n  ${location.origin}/api/brands/${brand.slug}`}
        </pre>
        <Button kind="main" className="mt-4 self-start" onClick={onClose}>
          I have it
        </Button>
      </Sheet>
    );
  return (
    <Sheet isOpen title={title} onClose={onClose}>
      <Form
        form={form}
        error={make.error instanceof NotSure ? null : make.error}
        className="mt-1 flex flex-col gap-4"
        onSubmit={() =>
          make.mutate(undefined, { onSuccess: () => Promise.all([tokens.refetch(), programs.refetch()]) })
        }
      >
        <Entry form={form} name="name" label="What it is for">
          {(field) => <input {...field} maxLength={80} />}
        </Entry>
        <div className="flex gap-3">
          <div className="flex-1">
            <Entry form={form} name="days" label="It lasts">
              {(field) => (
                <select {...field} onChange={(e) => field.onChange(Number(e.target.value))}>
                  {Object.entries(LASTS).map(([value, words]) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </select>
              )}
            </Entry>
          </div>
          {what === "program" && (
            <div className="flex-1">
              <Entry form={form} name="role" label="As">
                {(field) => (
                  <select {...field}>
                    {ROLES.filter((one) => one !== "admin" && one !== "guest").map((one) => (
                      <option key={one} value={one} title={ROLE_WORDS[one]}>
                        {one}
                      </option>
                    ))}
                  </select>
                )}
              </Entry>
            </div>
          )}
        </div>
        {what === "token" && (
          <CheckEntry form={form} name="isEverywhere">
            In all my brands, not in {brand.name} alone
          </CheckEntry>
        )}
        <fieldset className="flex flex-col gap-1.5">
          <legend className="mb-1 text-[13px] font-semibold">It may</legend>
          {team.error && <Notice kind="wrong">{team.error.message}</Notice>}
          <ChecksEntry
            form={form}
            name="scopes"
            options={offered.map((one) => ({ value: one.name, label: one.words }))}
          />
        </fieldset>
        <Button kind="main" type="submit" className="self-start" isBusy={make.isPending} disabled={name.trim() === ""}>
          Make it
        </Button>
      </Form>
      {dialog}
    </Sheet>
  );
}
