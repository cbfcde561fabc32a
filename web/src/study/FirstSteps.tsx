import { Link } from "react-router";
import { useBrand } from "./brand";
import type { Permission } from "./permissions";
import { useFirstSteps, useKeepPreference, usePreferences } from "./queries";
import { ShowDemo } from "./ShowDemo";

const NAME = "first-steps";

/** How a brand gets its first figures, and how far it is; gone when all is done, or when somebody has enough of it. */
export function FirstSteps() {
  const { brand, can } = useBrand();
  const steps = useFirstSteps(brand.slug);
  const preferences = usePreferences(brand.slug);
  const keep = useKeepPreference(brand.slug);
  const all = (steps.data ?? []).filter((step) => step.is_done || can(step.permission as Permission));
  const done = all.filter((step) => step.is_done).length;
  const isAway = preferences.data?.values[NAME] === "away";
  if (!preferences.data || all.length === 0 || done === all.length || isAway || brand.is_demo) return null;
  const next = all.find((step) => !step.is_done);
  return (
    <section
      aria-labelledby="first-steps"
      className="mx-auto w-[calc(100%-24px)] max-w-2xl border border-rule bg-paper px-5 py-4"
    >
      <div className="flex items-baseline justify-between gap-4">
        <h2 id="first-steps" className="text-[18px]">
          The first figures of {brand.name}
        </h2>
        <span className="label">
          {done} of {all.length} done
        </span>
      </div>
      <ol className="mt-2">
        {all.map((step, i) => (
          <li key={step.key} className="rowline flex items-start gap-3 py-2">
            <span aria-hidden="true" className="label w-9 shrink-0 pt-[3px]">
              {step.is_done ? "done" : i + 1}
            </span>
            <span className="min-w-0 flex-1">
              {step.is_done ? (
                <span className="text-muted">
                  {step.title} <span className="sr-only">is done</span>
                </span>
              ) : (
                <Link
                  to={`/${brand.slug}/${step.path}`}
                  className={`under hover:text-berry ${step === next ? "font-semibold" : ""}`}
                >
                  {step.title}
                </Link>
              )}
              <span className="label block">{step.gives}</span>
            </span>
          </li>
        ))}
      </ol>
      <ShowDemo />
      <button
        type="button"
        className="under label mt-2 min-h-6 hover:text-berry"
        onClick={() => keep.mutate({ name: NAME, value: "away" })}
      >
        Enough of this
      </button>
    </section>
  );
}
