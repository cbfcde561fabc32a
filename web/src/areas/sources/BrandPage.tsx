import { useForm } from "react-hook-form";
import { useNavigate } from "react-router";
import type { ProblemError } from "../../api/client";
import { plural } from "../../lib/format";
import { networkNamed, useBrand } from "../../study/brand";
import { useAddBrand, useChangeBrand } from "../../study/queries";
import { ShowDemo } from "../../study/ShowDemo";
import { Button } from "../../ui/Button";
import { Entry, Form } from "../../ui/Form";
import { NetworkMark } from "../../ui/Marks";
import { Notice } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { useSavePicture, useSources } from "./queries";
import { SourcesBar } from "./SourcesBar";

const ZONES = Intl.supportedValuesOf("timeZone");
const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

type Values = { name: string; time_zone: string; first_weekday: number };

/** A brand: what it is called, when its days and weeks begin, its picture, its profiles. */
export function BrandPage() {
  const { brand, can } = useBrand();
  const canChange = can("brand.change");
  const change = useChangeBrand(brand.slug);
  const say = useToast();
  return (
    <>
      <SourcesBar />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <section className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3">
          <h1 className="text-[18px] leading-6">{brand.name}</h1>
          <BrandForm
            key={brand.slug}
            start={brand}
            isEditable={canChange}
            isBusy={change.isPending}
            problem={change.error as ProblemError | null}
            verb="Save"
            onSave={(values) => change.mutate(values, { onSuccess: () => say("Saved.") })}
          />
          <p className="label mt-3 max-w-md">
            Days and weeks of every figure begin in this time zone. When it changes, what is kept by day is worked out
            anew in the background. Goals come with visits and conversions.
          </p>
        </section>
        <Picture />
      </div>
    </>
  );
}

/** A new brand, with oneself as its editor. */
export function NewBrandPage() {
  const add = useAddBrand();
  const navigate = useNavigate();
  const { can } = useBrand();
  const canChange = can("brand.change");
  return (
    <>
      <SourcesBar />
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3">
        <h1 className="text-[18px] leading-6">A new brand</h1>
        <p className="text-muted">Whose presence is looked after: with profiles, competitors and a plan of its own.</p>
        <BrandForm
          start={{ name: "", time_zone: Intl.DateTimeFormat().resolvedOptions().timeZone, first_weekday: 0 }}
          isEditable={canChange}
          isBusy={add.isPending}
          problem={add.error as ProblemError | null}
          verb="Make the brand"
          onSave={(values) => add.mutate(values, { onSuccess: (made) => navigate(`/${made.slug}/sources`) })}
        />
        <div className="mt-5 max-w-md border-t border-rule">
          <ShowDemo />
        </div>
      </section>
    </>
  );
}

function BrandForm({
  start,
  isEditable,
  isBusy,
  problem,
  verb,
  onSave,
}: {
  start: Values;
  isEditable: boolean;
  isBusy: boolean;
  problem: ProblemError | null;
  verb: string;
  onSave: (values: Values) => void;
}) {
  const form = useForm<Values>({
    defaultValues: {
      name: start.name,
      time_zone: start.time_zone,
      first_weekday: start.first_weekday,
    },
  });
  return (
    <Form form={form} error={problem} className="mt-3 flex max-w-md flex-col gap-4" onSubmit={onSave}>
      <Entry form={form} name="name" label="Name">
        {(field) => <input {...field} disabled={!isEditable} />}
      </Entry>
      <Entry form={form} name="time_zone" label="Time zone" help="By its IANA name, such as Europe/Lisbon">
        {(field) => (
          <>
            <input {...field} list="brand-zones" disabled={!isEditable} />
            <datalist id="brand-zones">
              {ZONES.map((zone) => (
                <option key={zone} value={zone} />
              ))}
            </datalist>
          </>
        )}
      </Entry>
      <Entry form={form} name="first_weekday" label="The week begins on">
        {(field) => (
          <select {...field} disabled={!isEditable} onChange={(e) => field.onChange(Number(e.target.value))}>
            {DAYS.map((day, i) => (
              <option key={day} value={i}>
                {day}
              </option>
            ))}
          </select>
        )}
      </Entry>
      {isEditable && (
        <Button kind="main" type="submit" isBusy={isBusy} className="self-start">
          {verb}
        </Button>
      )}
    </Form>
  );
}

function Picture() {
  const { brand, networks, can } = useBrand();
  const canChange = can("brand.change");
  const sources = useSources(brand.slug);
  const save = useSavePicture(brand.slug);
  const own = (sources.data?.profiles ?? []).filter((p) => p.kind === "own");
  return (
    <section className="min-w-0 overflow-y-auto px-5 py-3" aria-labelledby="picture-title">
      <h2 id="picture-title" className="text-[18px] leading-6">
        Picture and profiles
      </h2>
      <p className="label">
        The brand shows the picture of one of its profiles, and follows it: a new one there is the new one here with the
        next collection.
      </p>
      {save.error && <Notice kind="wrong">{save.error.message}</Notice>}
      <fieldset className="mt-2" disabled={!canChange || save.isPending}>
        <legend className="text-[13px] font-semibold">{plural(own.length, "own profile")}</legend>
        {own.map((p) => {
          const network = networkNamed(networks, p.network);
          return (
            <label key={p.id} className="rowline flex cursor-pointer items-center gap-3 py-1.5">
              <input
                type="radio"
                name="picture"
                checked={brand.picture_from === p.id}
                onChange={() => save.mutate(p.id)}
                aria-label={`Take the picture of ${p.name} on ${network.name}`}
                className="h-4 w-4 accent-[var(--berry)]"
              />
              <img src={p.picture || undefined} alt="" width="32" height="32" className="h-8 w-8 bg-rule" />
              <NetworkMark network={network} />
              <span className="font-semibold">{p.name}</span>
              <span className="label">{p.is_from_file ? "from files" : `@${p.handle}`}</span>
            </label>
          );
        })}
      </fieldset>
    </section>
  );
}
