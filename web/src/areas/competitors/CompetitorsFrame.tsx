import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { useAreas, useParts } from "../../study/areas";
import { networkNamed, useBrand } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { useProfiles } from "../../study/queries";
import { StudySentence } from "../../study/StudySentence";
import { StudySet } from "../../study/StudySet";
import { carriedAll } from "../../study/study";
import { useAddress } from "../../study/useAddress";
import { Views } from "../../study/Views";
import { Choice } from "../../ui/Choice";
import { usePeerSets, type Whom } from "./queries";

/** Who is compared, as the address says it. */
export function useWhom(): Whom & { change: (name: "set" | "rows", value: string | null) => void } {
  const { params, set } = useAddress();
  const number = params.get("set");
  return {
    set: number && /^[1-9]\d{0,17}$/.test(number) ? Number(number) : undefined,
    by: params.get("rows") === "profile" ? "profile" : "owner",
    change: (name, value) => set(name, value),
  };
}

type Props = {
  actions?: ReactNode;
  /** Whether the view can show each profile by itself. */
  hasRows?: boolean;
  children: ReactNode;
};

/** What every view of Competitors stands in: the line, who is compared in which period, and the views. */
export function CompetitorsFrame({ actions, hasRows, children }: Props) {
  const views = useAreas().find((area) => area.path === "competitors")?.views ?? [];
  const hasSentence = useParts() !== null;
  return (
    <>
      <MinuteLine />
      {hasSentence && (
        <StudySentence>
          <Whose hasRows={hasRows} />
        </StudySentence>
      )}
      <Views label="Views of Competitors" base="competitors" views={views}>
        {actions}
      </Views>
      {children}
    </>
  );
}

function Whose({ hasRows }: { hasRows?: boolean }) {
  const { brand, networks } = useBrand();
  const { search } = useLocation();
  const { set, by, change } = useWhom();
  const sets = usePeerSets(brand.slug).data?.sets ?? [];
  const followed = useProfiles(brand.slug).data?.profiles ?? [];
  const used = [...new Set(followed.map((p) => p.network))];
  const chosen = sets.find((one) => one.id === set);
  return (
    <span className="narrow:whitespace-normal">
      among{" "}
      <Choice
        label="Who is compared"
        value={set ? String(set) : ""}
        options={[
          { value: "", label: "everybody we follow" },
          ...sets.map((one) => ({ value: String(one.id), label: one.name, hint: `${one.profiles.length} profiles` })),
        ]}
        onChoose={(value) => change("set", value || null)}
      >
        {chosen?.name ?? (set ? "a set that is gone" : "everybody we follow")}
      </Choice>{" "}
      on{" "}
      <StudySet
        field="network"
        label="Networks compared"
        none="all networks"
        options={used.map((key) => ({ value: key, label: networkNamed(networks, key).name }))}
      />
      {hasRows && (
        <>
          ,{" "}
          <Choice
            label="Rows"
            value={by ?? "owner"}
            options={[
              { value: "owner", label: "each as a whole" },
              { value: "profile", label: "each profile by itself" },
            ]}
            onChoose={(value) => change("rows", value === "profile" ? value : null)}
          >
            {by === "profile" ? "each profile by itself" : "each as a whole"}
          </Choice>
        </>
      )}
      {sets.length === 0 && (
        <>
          {" · "}
          <Link to={`/${brand.slug}/competitors/sets${carriedAll(search)}`} className="under hover:text-berry">
            make a set
          </Link>
        </>
      )}
    </span>
  );
}
