import { useState } from "react";
import type { ProblemError } from "../../api/client";
import { useBrand } from "../../app/brand";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { useAddCompetitor, useSources } from "./queries";

/** Follow somebody's profile by handle. Only what is public is read. */
export function AddCompetitor({ onDone }: { onDone: () => void }) {
  const { brand, networks } = useBrand();
  const sources = useSources(brand.slug);
  const add = useAddCompetitor(brand.slug);
  const [network, setNetwork] = useState(networks[0]?.key ?? "");
  const [handle, setHandle] = useState("");
  const [name, setName] = useState("");
  const say = useToast();
  const problem = add.error as ProblemError | null;
  const known = [...new Set((sources.data?.profiles ?? []).map((p) => p.competitor).filter((n): n is string => !!n))];
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate(
          { network, handle, name },
          {
            onSuccess: () => {
              say("The profile is followed; its public posts are being collected.");
              onDone();
            },
          },
        );
      }}
    >
      {problem && Object.keys(problem.fields).length === 0 && <Notice kind="wrong">{problem.message}</Notice>}
      <Field label="Network" error={problem?.fields.network}>
        {(props) => (
          <select {...props} value={network} onChange={(e) => setNetwork(e.target.value)}>
            {networks.map((n) => (
              <option key={n.key} value={n.key}>
                {n.name}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label="Handle" help="As it stands on the network, with or without @" error={problem?.fields.handle}>
        {(props) => <input {...props} value={handle} autoComplete="off" onChange={(e) => setHandle(e.target.value)} />}
      </Field>
      <Field
        label="Belongs to"
        help="The competitor's name; its profiles stand together. Left empty, the profile's own name is taken"
      >
        {(props) => (
          <>
            <input {...props} value={name} list="competitors" onChange={(e) => setName(e.target.value)} />
            <datalist id="competitors">
              {known.map((one) => (
                <option key={one} value={one} />
              ))}
            </datalist>
          </>
        )}
      </Field>
      <Button kind="main" type="submit" isBusy={add.isPending} className="self-start">
        Follow
      </Button>
    </form>
  );
}
