import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { SaveAs } from "../../figures/SaveAs";
import { moment } from "../../lib/days";
import { plural } from "../../lib/format";
import { useBrand } from "../../study/brand";
import { AskForIdea } from "../../study/KeepIdea";
import { languageName } from "../../study/study";
import { Button } from "../../ui/Button";
import { Empty, Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { PostLink } from "./PostLink";
import { type Finding, useFindAgain, useFindings, useSetFindingState } from "./queries";
import { ResultsFrame } from "./ResultsFrame";

const KINDS: Record<string, string> = {
  group: "A group of posts",
  spike: "A day that stood out",
  dip: "A day that fell away",
  trend: "A change of trend",
  unusual: "An unusual post",
  hole: "A hole in the data",
  hour: "A missed hour",
  young: "A young post",
};

/** What the data say by themselves: ranked by size and certainty, each with its evidence, posts and next step. */
export function FindingsPage() {
  const { brand, can } = useBrand();
  const canChange = can("results.findings");
  const findings = useFindings(brand.slug);
  const again = useFindAgain(brand.slug);
  const say = useToast();
  const [showsDismissed, setShows] = useState(false);
  const all = findings.data?.findings ?? [];
  const shown = all.filter((f) => showsDismissed || f.state !== "dismissed");
  const dismissed = all.filter((f) => f.state === "dismissed").length;
  // The worker looks: this may be left meanwhile.
  const isLooking = again.isPending || (findings.data?.is_looking ?? false);
  const wasLooking = useRef(false);
  useEffect(() => {
    if (wasLooking.current && !isLooking) say(`${plural(all.length, "finding")} in the data as they are now.`);
    wasLooking.current = isLooking;
  }, [isLooking, all.length, say]);
  return (
    <ResultsFrame
      actions={
        <>
          {canChange && (
            <Button
              kind="quiet"
              isBusy={isLooking}
              onClick={() => again.mutate(undefined, { onError: (error) => say(error.message, "wrong") })}
            >
              {isLooking ? "Looking …" : "Look again now"}
            </Button>
          )}
          <SaveAs
            name="findings"
            table={{ kind: "results.findings", params: { limit: 20 } }}
            report={{ kind: "results.findings", params: { limit: 8 }, drawing: "cards" }}
          />
        </>
      }
    >
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="findings-title">
        <h1 id="findings-title" className="text-[18px] leading-6">
          {findings.data?.found_at ? plural(shown.length, "finding") : "Findings"}
        </h1>
        <p className="label">
          From the last 90 days of one's own profiles
          {findings.data?.found_at && `, looked for ${moment(findings.data.found_at, brand.time_zone)}`}. The largest
          and surest first. On days without anything to find, fewer than one in ten would show something.
          {dismissed > 0 && (
            <>
              {" "}
              <button type="button" className="under hover:text-berry" onClick={() => setShows(!showsDismissed)}>
                {showsDismissed ? "Hide" : "Show"} the {dismissed} dismissed
              </button>
            </>
          )}
        </p>
        {findings.error ? (
          <Failed error={findings.error} onRetry={() => findings.refetch()} />
        ) : !findings.data ? (
          <Loading what="Loading the findings" />
        ) : shown.length === 0 ? (
          <Empty title={findings.data.found_at ? "Nothing stands out beyond chance" : "Nobody has looked yet"}>
            They are looked for every morning{findings.data.found_at ? "." : ", and now: choose “Look again now”."}
          </Empty>
        ) : (
          <ol className="mt-2">
            {shown.map((finding) => (
              <One key={finding.id} finding={finding} />
            ))}
          </ol>
        )}
      </section>
    </ResultsFrame>
  );
}

function One({ finding }: { finding: Finding }) {
  const { brand, can } = useBrand();
  const canChange = can("results.findings");
  const set = useSetFindingState(brand.slug);
  const link = (path: string) => `/${brand.slug}/${path}`;
  const put = (state: Finding["state"]) => set.mutate({ id: finding.id, state });
  return (
    <li
      className={`rowline grid grid-cols-[170px_1fr_auto] gap-x-5 py-3 ${finding.state === "dismissed" ? "opacity-60" : ""}`}
    >
      <p className="label pt-0.5">
        {KINDS[finding.kind] ?? finding.kind}
        <Weight weight={finding.weight} />
        {finding.state === "pinned" && <span className="block font-semibold text-berry">pinned</span>}
        {!finding.is_current && <span className="block">no longer so</span>}
      </p>
      <div className="min-w-0">
        <h2 className="text-[16.5px] leading-6">{wordsOf(finding)}</h2>
        {finding.detail && <p>{finding.detail}</p>}
        {finding.posts.length > 0 && (
          <ul className="mt-1" aria-label="Posts behind it">
            {finding.posts.slice(0, 3).map((post) => (
              <li key={post.id} className="h-6">
                <PostLink post={post} />
              </li>
            ))}
          </ul>
        )}
        <p className="mt-1 flex gap-4">
          {finding.step.path && (
            <Link to={link(finding.step.path)} className="under font-semibold hover:text-berry">
              {finding.step.words}
            </Link>
          )}
          {finding.step.posts && (
            <Link to={link(finding.step.posts)} className="under hover:text-berry">
              The posts behind it
            </Link>
          )}
          {finding.step.more && (
            <Link to={link(finding.step.more)} className="under hover:text-berry">
              {finding.step.more_words}
            </Link>
          )}
          <AskForIdea
            begun={{
              title: wordsOf(finding),
              note: finding.detail,
              origin: { origin: "finding", view: finding.step.posts || finding.step.path || "results/findings" },
            }}
          />
        </p>
      </div>
      {canChange && (
        <p className="flex items-start gap-3">
          {finding.state === "new" ? (
            <>
              <Button kind="quiet" onClick={() => put("pinned")}>
                Pin
              </Button>
              <Button kind="quiet" onClick={() => put("dismissed")}>
                Dismiss
              </Button>
            </>
          ) : (
            <Button kind="quiet" onClick={() => put("new")}>
              {finding.state === "pinned" ? "Unpin" : "Bring back"}
            </Button>
          )}
        </p>
      )}
    </li>
  );
}

/** Languages are told by their code, and shown by their name. */
function wordsOf({ text, evidence }: Finding): string {
  const code = evidence.by === "language" ? String(evidence.name) : "";
  return code ? text.replace(`in ${code} `, `in ${languageName(code)} `) : text;
}

/** How heavy a finding is: size times certainty, up to a factor of four. */
function Weight({ weight }: { weight: number }) {
  return (
    <svg width="64" height="5" className="my-1 block" role="img" aria-label={`Weight ${weight.toFixed(2)}`}>
      <rect width="64" height="5" fill="var(--rule)" />
      <rect width={64 * Math.min(1, weight / Math.log(4))} height="5" fill="var(--berry)" />
    </svg>
  );
}
