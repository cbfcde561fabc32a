import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { useAreas, useParts } from "../../study/areas";
import { networkNamed, useBrand } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { StepTo, useHasProfiles } from "../../study/NothingYet";
import { useProfiles } from "../../study/queries";
import { StudySentence } from "../../study/StudySentence";
import { StudySet } from "../../study/StudySet";
import { carriedAll } from "../../study/study";
import { useAddress } from "../../study/useAddress";
import { Views } from "../../study/Views";
import { Choice } from "../../ui/Choice";
import { Empty } from "../../ui/States";
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

/** What will stand in a view, for who follows nobody yet. The table and the sets say so themselves. */
const WHAT: Record<string, string> = {
  benchmark: "Here stands where we are among the others, week by week, and what is usual for an audience of our size.",
  axes: "Here everybody stands by two figures, with the way that each has gone.",
  posts: "Here stand the others’ posts, those first that rise furthest above their own usual.",
  presence: "Here stands who is on which network, and whether it is worth being there.",
  works: "Here stands what works for the others: hashtags, formats, topics, hours, each with its interval.",
  gap: "Here our interactions and theirs are taken apart: audience, how often, and how much each post brings.",
};

/** In place of all of them: the one step. */
export function NobodyFollowed({ children }: { children: ReactNode }) {
  return (
    <Empty
      title="No competitor is followed yet"
      action={<StepTo step="sources?open=competitor" may="sources.follow" name="Follow a competitor’s profile" />}
    >
      {children} A handle or a web address is enough; only public figures are read.
    </Empty>
  );
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
  const what = WHAT[useLocation().pathname.split("/")[3] ?? ""];
  const hasOthers = useHasProfiles("competitor");
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
      {what && hasOthers === false ? <NobodyFollowed>{what}</NobodyFollowed> : children}
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
