import type { ReactNode } from "react";
import { Link } from "react-router";
import { Empty } from "../ui/States";
import { useBrand } from "./brand";
import { FirstSteps } from "./FirstSteps";
import type { Permission } from "./permissions";
import { useFirstSteps, useProfiles } from "./queries";

/** Whether a brand has profiles of a kind, or any; null while that is not known. */
export function useHasProfiles(kind?: "own" | "competitor"): boolean | null {
  const { brand } = useBrand();
  const found = useProfiles(brand.slug).data?.profiles;
  return found ? found.some((one) => !kind || one.kind === kind) : null;
}

/** Whether nothing was begun: no profile is there, and no step was taken that brings one. */
export function useIsBare(): boolean {
  const { brand } = useBrand();
  const steps = useFirstSteps(brand.slug).data ?? [];
  const hasProfiles = useHasProfiles();
  return hasProfiles === false && steps.length > 0 && steps.every((one) => !one.is_done || one.key === "link");
}

/** In place of a view of a brand that has nothing yet: what will stand here, and the first steps towards it. */
export function NothingYet({ what }: { what: string }) {
  return (
    <div className="min-h-0 flex-1 overflow-y-auto pb-6">
      <Empty
        title="Nothing is collected yet"
        action={<StepTo step="sources" may="sources.files" name="To the sources" />}
      >
        {what} It comes with the first profile that is followed, or the first file.
      </Empty>
      <FirstSteps />
    </div>
  );
}

/** The one step that fills an empty screen, for whoever may take it. */
export function StepTo({ step, may, name }: { step: string; may: Permission; name: ReactNode }) {
  const { brand, can } = useBrand();
  if (!can(may)) return null;
  return (
    <Link to={`/${brand.slug}/${step}`} className="under font-semibold hover:text-berry">
      {name}
    </Link>
  );
}
