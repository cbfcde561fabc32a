import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { addDays } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { useGroups } from "../results";

const DAYS = 182;
/** What of a post is told apart, and the sentence that says it. */
const ASKED = [
  { by: "length", said: (name: string) => `Texts of ${name.replace("up to", "at most")} characters` },
  { by: "opening", said: (name: string) => `Texts that begin ${name}` },
  { by: "link", said: (name: string) => `Posts ${name}` },
] as const;

/** What of its own does well on this profile, as far as half a year of posts can tell; nothing where they cannot. */
export function Advice({ profile }: { profile: Schemas["Profile"] }) {
  const { brand, today } = useBrand();
  const study = {
    first: addDays(today, -DAYS),
    last: today,
    profile: String(profile.id),
    compare: "previous" as const,
  };
  const lengths = useGroups(brand.slug, study, ASKED[0].by, "index").data;
  const openings = useGroups(brand.slug, study, ASKED[1].by, "index").data;
  const links = useGroups(brand.slug, study, ASKED[2].by, "index").data;
  const told = [lengths, openings, links].flatMap((found, i) =>
    (found?.groups ?? [])
      .filter((group) => (group.verdict === "better" || group.verdict === "worse") && group.adjusted)
      .map((group) => ({ group, by: ASKED[i]?.by ?? "length", said: ASKED[i]?.said(group.name) ?? group.name })),
  );
  if (told.length === 0) return null;
  return (
    <ul className="text-[12.5px] text-muted" aria-label="What does well here">
      {told.map(({ group, by, said }) => (
        <li key={by + group.key}>
          {said} do {figure(group.adjusted?.value ?? null, "index")} times the others here (
          {figure(group.adjusted?.interval.low ?? null, "index")}–
          {figure(group.adjusted?.interval.high ?? null, "index")}, {plural(group.n, "post")}):{" "}
          <Link
            to={`/${brand.slug}/results/groups?by=${by}&profile=${profile.id}&first=${study.first}&last=${study.last}`}
            className="under hover:text-berry"
          >
            see them
          </Link>
        </li>
      ))}
    </ul>
  );
}
