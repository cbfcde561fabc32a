import { useState } from "react";
import { useForm } from "react-hook-form";
import { useNavigate } from "react-router";
import type { ProblemError } from "../../api/client";
import { plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Entry, Form } from "../../ui/Form";
import { Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { type AccountChoice, Accounts } from "./FileQuestions";
import { type Preview, useConfirmFile, useDiscardFile, useIsSettling, useSettleFile, useSources } from "./queries";
import { OF_NO_PROFILE } from "./rules";

/** Where the rows go, and bringing them in. */
export function FileConfirm({ preview }: { preview: Preview }) {
  const { brand, networks } = useBrand();
  const { item } = preview;
  const navigate = useNavigate();
  const say = useToast();
  const sources = useSources(brand.slug);
  const confirm = useConfirmFile(brand.slug, item.id);
  const discard = useDiscardFile(brand.slug);
  const settle = useSettleFile(brand.slug, item.id);
  // What comes in is what was seen: not before the answer to what was last told stands here.
  const isSettling = useIsSettling(item.id) || item.state === "looking";
  const named = preview.accounts.length;
  const first = preview.detected.profile_id ?? (named === 1 ? preview.accounts[0]?.profile_id : null);
  const [chosen, setTarget] = useState<string>();
  // Several accounts in one file are offered as several; a file of the last one's kind goes where that went.
  const target = chosen ?? (named > 1 ? "rows" : first ? String(first) : "");
  const [choices, setChoices] = useState<Record<number, AccountChoice>>({});
  const form = useForm({ defaultValues: { newProfile: "", network: "" } });
  const { newProfile, network } = form.watch();
  const problem = (confirm.error ?? discard.error) as ProblemError | null;
  const needsProfile = !OF_NO_PROFILE.includes(item.kind);
  const own = (sources.data?.profiles ?? []).filter((p) => p.kind === "own");
  const others = (sources.data?.profiles ?? []).filter((p) => p.kind !== "own");
  const nameOf = (key: string) => networkNamed(networks, key).name;
  const isSettled = preview.accounts.every((account, place) => {
    const choice = choices[place];
    if (!choice) return account.profile_id !== null;
    return Boolean(choice.profile_id || choice.what === "leave" || (choice.what && (account.network || choice.on)));
  });
  const option = (p: (typeof own)[number]) => (
    <option key={p.id} value={p.id}>
      {p.name} on {nameOf(p.network)}
    </option>
  );
  return (
    <Form
      form={form}
      error={null}
      className="mt-4 flex max-w-lg flex-col gap-3 border-t border-rule pt-3"
      onSubmit={() => {
        confirm.mutate({
          profile_id: target && target !== "new" && target !== "rows" ? Number(target) : null,
          new_profile: target === "new" ? newProfile : "",
          network: target === "new" ? network : "",
          is_per_row: target === "rows",
          accounts:
            target === "rows"
              ? preview.accounts.map((account, place) => ({
                  network: account.network,
                  handle: account.handle,
                  on: "",
                  ...(choices[place] ?? (account.profile_id ? { profile_id: account.profile_id } : {})),
                }))
              : [],
        });
      }}
    >
      {problem && <Notice kind="wrong">{Object.values(problem.fields)[0] ?? problem.message}</Notice>}
      {needsProfile && (
        <Field label="The rows belong to" error={problem?.fields.profile_id}>
          {(props) => (
            <select
              {...props}
              value={target}
              // What is typed beside it meanwhile is kept: only what would be looked into again waits.
              disabled={item.state === "looking"}
              onChange={(e) => {
                setTarget(e.target.value);
                // What was told of this profile's last file counts, and which of its posts are known is looked up.
                const isNew = e.target.value === "new" && preview.detected.is_remembered;
                if (isNew || Number(e.target.value)) settle.mutate({ profile_id: Number(e.target.value) || 0 });
              }}
            >
              <option value="">choose a profile</option>
              {named > 0 && (
                <option value="rows">
                  {named > 1 ? `the ${named} accounts that the rows name` : "the account that the rows name"}
                </option>
              )}
              <optgroup label="Ours">{own.map(option)}</optgroup>
              {others.length > 0 && <optgroup label="Competitors'">{others.map(option)}</optgroup>}
              <option value="new">a profile that is not here yet</option>
            </select>
          )}
        </Field>
      )}
      {target === "rows" && (
        <Accounts
          preview={preview}
          profiles={[...own, ...others].map((p) => ({ ...p, network: nameOf(p.network) }))}
          choices={choices}
          onChoose={(place, choice) => setChoices({ ...choices, [place]: choice })}
        />
      )}
      {target === "new" && (
        <div className="grid grid-cols-2 gap-3">
          <Entry form={form} name="newProfile" label="Its name">
            {(field) => <input {...field} />}
          </Entry>
          <Entry form={form} name="network" label="Its network" help="Any, also one that is not collected here">
            {(field) => (
              <>
                <input {...field} list="networks" />
                <datalist id="networks">
                  {networks.map((n) => (
                    <option key={n.key} value={n.key}>
                      {n.name}
                    </option>
                  ))}
                </datalist>
              </>
            )}
          </Entry>
        </div>
      )}
      <div className="flex gap-3">
        <Button
          kind="main"
          type="submit"
          isBusy={confirm.isPending || isSettling}
          disabled={
            preview.mapping_problems.length > 0 ||
            preview.readable === 0 ||
            (needsProfile && !target) ||
            (target === "rows" && !isSettled)
          }
        >
          Bring in {item.is_exact ? "" : "about "}
          {plural(item.row_count - (item.row_count === preview.rows_looked_at ? preview.problem_count : 0), "row")}
        </Button>
        <Button
          isBusy={discard.isPending}
          onClick={() =>
            discard.mutate(item.id, {
              onSuccess: () => {
                say("The file was thrown away. Nothing was changed.");
                navigate(`/${brand.slug}/sources/import`);
              },
            })
          }
        >
          Throw it away
        </Button>
      </div>
    </Form>
  );
}
