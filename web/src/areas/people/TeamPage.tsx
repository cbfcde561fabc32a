import { useState } from "react";
import { useForm } from "react-hook-form";
import { Link } from "react-router";
import { ProblemError } from "../../api/client";
import { moment } from "../../lib/days";
import { plural, since } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { ROLE_WORDS, ROLES, type Role } from "../../study/permissions";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { CopyButton } from "../../ui/CopyButton";
import { Cut } from "../../ui/Cut";
import { Entry, Form } from "../../ui/Form";
import { StateWord } from "../../ui/Marks";
import { Failed, Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { LeaveSheet } from "./LeaveSheet";
import {
  type Invitation,
  type Member,
  type Team,
  useChangeRole,
  useInvite,
  useInviteAgain,
  useTeam,
  useWithdraw,
} from "./queries";
import { roleOptions, teamTitle } from "./rules";
import { useZone } from "./useZone";

/** Who works for a brand: asking people in, what each may do, and their leaving. */
export function TeamPage() {
  const { brand, can } = useBrand();
  const team = useTeam(brand.slug);
  const [pointed, setPointed] = useState<Role | null>(null);
  if (team.error) return <Failed error={team.error} onRetry={() => team.refetch()} />;
  if (!team.data) return <Loading what="Loading the team" />;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-2">
      <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3" aria-labelledby="team-title">
        <h1 id="team-title" className="text-[18px] leading-6">
          {teamTitle(team.data, brand.name)}
        </h1>
        <p className="flex gap-4">
          {can("brand.log") && (
            <Link to={`/${brand.slug}/team/log`} className="label under hover:text-berry">
              Who changed what
            </Link>
          )}
          <Link to={`/${brand.slug}/team/programs`} className="label under hover:text-berry">
            Programs and tokens
          </Link>
          {can("brand.status") && (
            <Link to={`/${brand.slug}/team/status`} className="label under hover:text-berry">
              How it runs
            </Link>
          )}
          {can("brand.webhooks") && (
            <Link to={`/${brand.slug}/team/webhooks`} className="label under hover:text-berry">
              Webhooks
            </Link>
          )}
        </p>
        {can("brand.people") && <Invite />}
        <Members team={team.data} onPoint={setPointed} />
        <Waiting invitations={team.data.invitations} />
      </section>
      <section className="min-w-0 overflow-y-auto px-5 py-3" aria-label="What each role may do" tabIndex={0}>
        <RolesTable team={team.data} pointed={pointed} />
      </section>
    </div>
  );
}

function Invite() {
  const { brand } = useBrand();
  const form = useForm({ defaultValues: { email: "", role: "analyst" as Role } });
  const { email, role } = form.watch();
  const invite = useInvite(brand.slug);
  return (
    <>
      <Form
        form={form}
        error={invite.error}
        className="mt-3 flex flex-wrap items-start gap-3"
        aria-label="Invite somebody"
        onSubmit={(given) => invite.mutate(given, { onSuccess: () => form.setValue("email", "") })}
      >
        <div className="w-[280px] max-w-full">
          <Entry form={form} name="email" label="Invite by e-mail">
            {(field) => (
              <input {...field} type="email" autoComplete="off" placeholder="name@example.org" maxLength={254} />
            )}
          </Entry>
        </div>
        <div className="w-[130px]">
          <Entry form={form} name="role" label="As">
            {(field) => (
              <select {...field}>
                {ROLES.map((one) => (
                  <option key={one} value={one}>
                    {one}
                  </option>
                ))}
              </select>
            )}
          </Entry>
        </div>
        <Button
          kind="main"
          type="submit"
          className="mt-[23px]"
          isBusy={invite.isPending}
          disabled={email.trim() === ""}
        >
          Invite
        </Button>
      </Form>
      <p className="label mt-1">
        {role}: {ROLE_WORDS[role]}.
      </p>
      {invite.data && <Address {...invite.data} />}
    </>
  );
}

/** What stands in the letter, for where no mail goes out; seen once. */
function Address({ invitation, address }: { invitation: Invitation; address: string }) {
  return (
    <div className="mt-3">
      <Notice kind="good">
        A letter to {invitation.email} is on its way. If no mail goes out at your place, hand this address over
        yourself; it is shown once and lets one person in.
        <span className="mt-1 flex items-center gap-2">
          <code className="min-w-0 truncate text-[12.5px]">{address}</code>
          <CopyButton text={address} said="The address is copied." />
        </span>
      </Notice>
    </div>
  );
}

function Members({ team, onPoint }: { team: Team; onPoint: (role: Role | null) => void }) {
  const { brand, can, now } = useBrand();
  const decides = can("brand.people");
  const change = useChangeRole(brand.slug);
  const say = useToast();
  const [leaving, setLeaving] = useState<Member | null>(null);
  return (
    <>
      <table className="mt-4 w-full table-fixed" onMouseLeave={() => onPoint(null)}>
        <caption className="sr-only">Who works for {brand.name}</caption>
        <thead className="label text-left">
          <tr className="rowline h-7">
            <th className="font-normal">Name</th>
            <th className="w-[84px] font-normal">Role</th>
            {decides && <th className="w-[140px] font-normal narrow:hidden">Signs in with</th>}
            {decides && <th className="w-[74px] font-normal narrow:hidden">Last seen</th>}
            <th className="w-[64px] font-normal">
              <span className="sr-only">Leaving</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {team.members.map((one) => (
            <tr key={one.id} className="rowline h-11" onMouseEnter={() => onPoint(one.role)}>
              <td>
                <span className="flex items-baseline gap-1.5 font-semibold">
                  <Cut>{one.name}</Cut>
                  {one.is_me && <span className="label shrink-0">you</span>}
                  {one.is_program && <span className="label shrink-0">a program</span>}
                </span>
                {one.email && (
                  <span className="label block truncate" title={one.email}>
                    {one.email}
                  </span>
                )}
              </td>
              <td>
                {decides ? (
                  <Choice
                    label={`Role of ${one.name}`}
                    value={one.role}
                    options={roleOptions}
                    onChoose={(role) =>
                      role !== one.role &&
                      change.mutate(
                        { id: one.id, role: role as Role },
                        {
                          onSuccess: () => say(`${one.name} is ${role} now.`),
                          onError: (error) =>
                            say(
                              error instanceof ProblemError ? (error.fields.role ?? error.message) : error.message,
                              "wrong",
                            ),
                        },
                      )
                    }
                  >
                    {one.role}
                  </Choice>
                ) : (
                  one.role
                )}
              </td>
              {decides && (
                <td className="narrow:hidden">
                  {one.is_program ? (
                    "a token"
                  ) : one.has_second_factor ? (
                    "password and device"
                  ) : (
                    <StateWord tone="quiet">password alone</StateWord>
                  )}
                </td>
              )}
              {decides && (
                <td className="narrow:hidden">
                  {one.seen_at ? since(one.seen_at, now) : <span className="label">not lately</span>}
                </td>
              )}
              <td className="text-right">
                {(one.is_me || (decides && !one.is_program)) && (
                  <Button kind="quiet" onClick={() => setLeaving(one)}>
                    {one.is_me ? "Leave" : "Let go"}
                    <span className="sr-only"> {one.is_me ? brand.name : one.name}</span>
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {!decides && (
        <p className="label mt-2">
          Admins invite people and change roles.{" "}
          <Link to={`/${brand.slug}/team/you`} className="under hover:text-berry">
            Your own page
          </Link>
        </p>
      )}
      {leaving && <LeaveSheet member={leaving} members={team.members} onClose={() => setLeaving(null)} />}
    </>
  );
}

function Waiting({ invitations }: { invitations: Invitation[] }) {
  const { brand } = useBrand();
  const zone = useZone();
  const again = useInviteAgain(brand.slug);
  const withdraw = useWithdraw(brand.slug);
  if (invitations.length === 0 && !again.data) return null;
  return (
    <section aria-label="Invited" className="mt-5">
      <h2 className="text-[16px]">{plural(invitations.length, "invitation")} not answered yet</h2>
      <table className="mt-1 w-full table-fixed">
        <thead className="label text-left">
          <tr className="rowline h-7">
            <th className="font-normal">E-mail</th>
            <th className="w-[80px] font-normal">As</th>
            <th className="w-[170px] font-normal narrow:hidden">Until</th>
            <th className="w-[180px] font-normal narrow:w-[110px]">
              <span className="sr-only">What to do</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {invitations.map((one) => (
            <tr key={one.id} className="rowline h-9">
              <td className="truncate" title={`by ${one.by || "somebody who left"}`}>
                {one.email}
              </td>
              <td>{one.role}</td>
              <td className="narrow:hidden">
                {one.is_over ? <StateWord tone="wrong">over</StateWord> : moment(one.until, zone)}
              </td>
              <td className="text-right">
                <Button kind="quiet" isBusy={again.isPending} onClick={() => again.mutate(one.id)}>
                  Write again
                </Button>
                <Button kind="quiet" isBusy={withdraw.isPending} onClick={() => withdraw.mutate(one.id)}>
                  Withdraw
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {again.data && <Address {...again.data} />}
      {(again.error ?? withdraw.error) && <Notice kind="wrong">{(again.error ?? withdraw.error)?.message}</Notice>}
    </section>
  );
}

/** The table of permissions, as the server keeps to it. */
function RolesTable({ team, pointed }: { team: Team; pointed: Role | null }) {
  return (
    <>
      <h2 className="text-[16px]">What each role may do</h2>
      <p className="label">By the one table that every request is held against.</p>
      <table className="mt-1 w-full table-fixed">
        <thead className="label text-left">
          <tr className="rowline h-7">
            <th className="font-normal">To</th>
            {ROLES.map((role) => (
              <th
                key={role}
                className={`w-[56px] text-center font-normal ${role === pointed ? "bg-wash text-ink" : ""}`}
                title={ROLE_WORDS[role]}
              >
                {role}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {team.permissions.map((row) => (
            <tr key={row.name} className="rowline min-h-7">
              <th scope="row" className="py-1 text-left font-normal">
                {row.words}
              </th>
              {ROLES.map((role) => {
                const may = row.roles.includes(role);
                return (
                  <td key={role} className={`text-center ${role === pointed ? "bg-wash" : ""}`}>
                    <span className="sr-only">{may ? "yes" : "no"}</span>
                    <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true" className="inline">
                      {may ? (
                        <path d="M2 6.5l2.6 2.7L10 3" stroke="currentColor" strokeWidth="1.7" fill="none" />
                      ) : (
                        <path d="M4.5 6h3" stroke="var(--rule-strong)" strokeWidth="1.2" />
                      )}
                    </svg>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
