import { useState } from "react";
import { ProblemError } from "../../api/client";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading, Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { type Member, useBelongings, useLeave } from "./queries";
import { heirs } from "./rules";

type Props = { member: Member; members: Member[]; onClose: () => void };

/** Somebody leaves: what is theirs here, who has it then, and what ends. */
export function LeaveSheet({ member, members, onClose }: Props) {
  const { brand } = useBrand();
  const person = member.is_me ? null : member.id;
  const found = useBelongings(brand.slug, person);
  const leave = useLeave(brand.slug, person);
  const say = useToast();
  const [to, setTo] = useState("");
  const left = found.data?.filter((one) => !one.is_personal) ?? [];
  const ends = found.data?.filter((one) => one.is_personal) ?? [];
  const problem = leave.error instanceof ProblemError ? leave.error : null;
  const others = heirs(members, member);
  const whose = member.is_me ? "you" : member.name;
  const onLeave = () =>
    leave.mutate(to === "" ? null : Number(to), {
      onSuccess: () => {
        if (member.is_me) return window.location.assign("/");
        say(`${member.name} no longer works for ${brand.name}.`);
        onClose();
      },
    });
  return (
    <Sheet
      isOpen
      title={member.is_me ? `Leave ${brand.name}` : `${member.name} leaves ${brand.name}`}
      onClose={onClose}
    >
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data ? (
        <Loading what="Looking for what is to be handed over" lines={3} />
      ) : (
        <div className="flex flex-col gap-4">
          {left.length > 0 ? (
            <>
              <div>
                <p>What belongs to {whose} here goes to somebody else:</p>
                <ul className="mt-1 list-disc pl-5">
                  {left.map((one) => (
                    <li key={one.key}>{one.words}</li>
                  ))}
                </ul>
              </div>
              <Field
                label="Who takes over"
                error={problem?.fields.to}
                help={
                  others.length === 0 ? "Nobody else may work with it: invite somebody, or change a role." : undefined
                }
              >
                {(props) => (
                  <select {...props} value={to} onChange={(e) => setTo(e.target.value)}>
                    <option value="">Choose somebody</option>
                    {others.map((one) => (
                      <option key={one.id} value={one.id}>
                        {one.name}, {one.role}
                      </option>
                    ))}
                  </select>
                )}
              </Field>
            </>
          ) : (
            <p>Nothing here belongs to {whose} alone: there is nothing to be handed over.</p>
          )}
          {ends.length > 0 && <p className="text-muted">What ends: {ends.map((one) => one.words).join(", ")}.</p>}
          <p className="text-muted">
            What {member.is_me ? "you have" : "they have"} made and said stays, under {member.is_me ? "your" : "their"}{" "}
            name. The account stays, too, with its other brands.
          </p>
          {problem && !(left.length > 0 && problem.fields.to) && (
            <Notice kind="wrong">{problem.fields.to ?? problem.message}</Notice>
          )}
          <div className="flex gap-3">
            <Button kind="danger" isBusy={leave.isPending} disabled={left.length > 0 && to === ""} onClick={onLeave}>
              {member.is_me ? `Leave ${brand.name}` : `Let ${member.name} go`}
            </Button>
            <Button onClick={onClose}>Stay</Button>
          </div>
        </div>
      )}
    </Sheet>
  );
}
