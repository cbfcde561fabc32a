import { useForm } from "react-hook-form";
import { Button } from "../ui/Button";
import { Entry, Form } from "../ui/Form";
import { Failed, Loading } from "../ui/States";
import { useToast } from "../ui/Toast";
import { useBrand } from "./brand";
import { useForgetStudy, useKeepStudy, useKeptStudies } from "./queries";
import { NARROWING, useStudy } from "./study";

/** What a kept study sets in the address; the days stay as they are. */
const KEPT = ["network", "profile", "format", ...NARROWING, "compare", "age"] as const;

/** The studies to choose from, and this one to be kept. */
export function StudiesList({ onChosen }: { onChosen: () => void }) {
  const { brand, can } = useBrand();
  const canKeep = can("figures.keep");
  const { change } = useStudy();
  const kept = useKeptStudies(brand.slug, true);
  const forget = useForgetStudy(brand.slug);
  const say = useToast();
  if (kept.error) return <Failed error={kept.error} onRetry={() => kept.refetch()} />;
  if (!kept.data) return <Loading />;
  return (
    <>
      {kept.data.length === 0 ? (
        <p className="text-muted">
          None yet. A study that is asked for often, say one campaign without boosted posts, can be kept under a name.
        </p>
      ) : (
        <ul>
          {kept.data.map((study) => (
            <li key={study.id} className="rowline flex min-h-9 items-center justify-between gap-3">
              <button
                type="button"
                className="under min-h-6 min-w-0 text-left font-semibold break-words hover:text-berry"
                onClick={() => {
                  change(Object.fromEntries(KEPT.map((name) => [name, study.query[name]])));
                  onChosen();
                }}
              >
                {study.name}
              </button>
              {canKeep && (
                <button
                  type="button"
                  className="label under h-6 shrink-0 hover:text-berry"
                  aria-label={`Let ${study.name} go`}
                  onClick={() =>
                    forget.mutate(study.id, {
                      onSuccess: () => say(`${study.name} is kept no longer.`),
                      onError: (error) => say(error.message, "wrong"),
                    })
                  }
                >
                  let go
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      {canKeep && <Keep />}
    </>
  );
}

function Keep() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const keep = useKeepStudy(brand.slug);
  const say = useToast();
  const form = useForm({ defaultValues: { name: "" } });
  const { name } = form.watch();
  return (
    <Form
      form={form}
      error={keep.error}
      className="mt-5 flex flex-col gap-3 border-t border-rule pt-3"
      onSubmit={() => {
        const { first: _, last: __, ...asked } = study;
        keep.mutate(
          { ...asked, name },
          {
            onSuccess: () => {
              form.setValue("name", "");
              say("The study is kept for the team.");
            },
          },
        );
      }}
    >
      <Entry
        form={form}
        name="name"
        label="Keep what is studied now as"
        help="The days are not kept: they stay those that one looks at. A name that is there is given to this study."
      >
        {(field) => <input {...field} maxLength={80} />}
      </Entry>
      <Button type="submit" kind="main" className="self-start" isBusy={keep.isPending} disabled={!name.trim()}>
        Keep it
      </Button>
    </Form>
  );
}
