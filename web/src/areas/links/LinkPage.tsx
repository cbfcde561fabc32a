import { useState } from "react";
import { Link, useLocation, useParams } from "react-router";
import { CourseChart } from "../../charts/CourseChart";
import { SaveAs } from "../../figures/SaveAs";
import { addDays, dayOf, moment, shortDay } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { AreaFrame } from "../../study/AreaFrame";
import { networkNamed, useBrand } from "../../study/brand";
import { useStudy } from "../../study/study";
import { Button } from "../../ui/Button";
import { CopyButton } from "../../ui/CopyButton";
import { Cut } from "../../ui/Cut";
import { Sheet } from "../../ui/Sheet";
import { Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { ChangeLinkForm } from "./ChangeLinkForm";
import { ClickCourse } from "./ClickCourse";
import { type Life, type OneLink, useChangeLink, useLink } from "./queries";
import { ageTitle, clicksTitle, hoursName } from "./rules";
import { Spread } from "./Spread";

const DIMENSIONS = ["referrer", "country", "language", "device", "browser", "reason"] as const;

/** One link: the period's clicks, its whole life with the posts that carried it, and what it leads to. */
export function LinkPage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { link: id } = useParams();
  const { search } = useLocation();
  const found = useLink(brand.slug, Number(id), study);
  const data = found.data;
  return (
    <AreaFrame area="links">
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !data ? (
        <Loading what="Loading the link" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[3fr_2fr]">
          <div className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3">
            <Link
              to={`/${brand.slug}/links${search}`}
              className="label under inline-flex h-6 items-center hover:text-berry"
            >
              All links
            </Link>
            <div className="flex items-baseline justify-between gap-4">
              <h2 className="text-[18px] leading-6">{clicksTitle(data.figures)}</h2>
              <SaveAs
                name="clicks"
                table={{ kind: "links.clicks", params: { link: id } }}
                report={{ kind: "links.clicks", params: { link: id }, drawing: "course" }}
              />
            </div>
            <ClickCourse
              first={data.period.first}
              firstBefore={data.compared.first}
              figures={data.figures}
              height={150}
              params={{ link: id }}
            />
            <LifeOf life={data.life} total={data.link.clicks_ever} link={data.link.id} />
          </div>
          <div className="min-w-0 overflow-y-auto px-5 py-3">
            <About link={data.link} />
            <div className="mt-5">
              <Spread figures={data.figures} dimensions={DIMENSIONS} params={{ link: id }} />
            </div>
          </div>
        </div>
      )}
    </AreaFrame>
  );
}

function LifeOf({ life, total, link }: { life: Life; total: number; link: number }) {
  const { brand, networks } = useBrand();
  const { search } = useLocation();
  const days = life.people.map((_, i) => addDays(life.first, i));
  const used = new Map<string, number>();
  for (const use of life.uses) {
    const day = dayOf(use.published_at, brand.time_zone);
    used.set(day, (used.get(day) ?? 0) + 1);
  }
  const reported = life.uses.reduce((all, use) => all + (use.reported ?? 0), 0);
  return (
    <section aria-label="The link's life" className="mt-4">
      <div className="flex items-baseline justify-between gap-4">
        <h2 className="text-[16px]">{ageTitle(life.ages, total)}</h2>
        <SaveAs
          name="life"
          table={{ kind: "links.life", params: { link } }}
          report={{ kind: "links.life", params: { link }, drawing: "course" }}
        />
      </div>
      <p className="label">
        {plural(total, "click")} since {shortDay(life.first)}. Short marks on the base line: posts that carry it.
      </p>
      <CourseChart
        label="Clicks over its life"
        unit="count"
        days={days}
        now={life.people}
        posts={days.map((day) => used.get(day) ?? null)}
        form={days.length > 120 ? "line" : "bar"}
        height={120}
      />
      <dl className="mt-1 flex flex-wrap gap-x-6 gap-y-1">
        {life.ages.map((age) => (
          <div key={age.hours}>
            <dt className="label">within {hoursName(age.hours)}</dt>
            <dd className="font-semibold">
              {figure(age.count)} {total > 0 && <span className="label">{Math.round((100 * age.count) / total)}%</span>}
            </dd>
          </div>
        ))}
        {life.ages.length > 0 && (
          <div>
            <dt className="label">later</dt>
            <dd className="font-semibold">{figure(life.later)}</dd>
          </div>
        )}
      </dl>
      <h3 className="mt-3 text-[15px]">
        {life.uses.length === 0
          ? "No post that we know of carries it"
          : life.uses.length === 1
            ? "One post carries it"
            : `${plural(life.uses.length, "post")} carry it`}
      </h3>
      {life.uses.length > 0 && (
        <>
          <table className="w-full table-fixed">
            <thead className="label text-left">
              <tr className="rowline h-6">
                <th className="font-normal">Post</th>
                <th className="w-[90px] font-normal">Network</th>
                <th className="w-[140px] font-normal">Sent</th>
                <th className="w-[86px] text-right font-normal">Its network says</th>
              </tr>
            </thead>
            <tbody>
              {life.uses.map((use) => (
                <tr key={use.post_id} className="rowline h-7">
                  <td className="truncate">
                    <Link
                      to={`/${brand.slug}/results/posts/${use.post_id}${search}`}
                      className="leading-6 hover:text-berry"
                    >
                      <Cut>{use.text}</Cut>
                    </Link>
                  </td>
                  <td>{networkNamed(networks, use.network).name}</td>
                  <td>{moment(use.published_at, brand.time_zone)}</td>
                  <td className="text-right">{figure(use.reported)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {reported > 0 && (
            <p className="label mt-1">
              The networks report {figure(reported)} clicks on these posts, we count {figure(total)} on this link. A
              network counts taps on anything in the post, also its own previews and those that never arrive; we count
              who arrives, also from copies of the link elsewhere, without bots.
            </p>
          )}
        </>
      )}
    </section>
  );
}

function About({ link }: { link: OneLink }) {
  const { brand } = useBrand();
  const [isChanging, setChanging] = useState(false);
  const change = useChangeLink(brand.slug, link.id);
  const say = useToast();
  const code = (form: string) => `/api/brands/${brand.slug}/links/${link.id}/code?form=${form}`;
  return (
    <section aria-label="About the link">
      <h1 className="text-[18px] leading-6">{link.name}</h1>
      <div className="mt-2 flex gap-4">
        <dl className="flex min-w-0 flex-1 flex-col gap-2">
          <div>
            <dt className="label">Short address</dt>
            <dd className="flex items-center gap-1 text-[16px] font-semibold">
              <a href={link.short} target="_blank" rel="noreferrer" className="under break-all hover:text-berry">
                {link.short}
              </a>
              <CopyButton text={link.short} said="The short address is copied." />
            </dd>
          </div>
          <div>
            <dt className="label">Leads to</dt>
            <dd className="break-all">{link.target}</dd>
          </div>
        </dl>
        <div className="w-[104px] shrink-0">
          <img src={code("svg")} alt={`QR code of ${link.short}`} width="104" height="104" className="bg-white" />
          <p className="label mt-1 flex justify-between">
            <a className="under hover:text-berry" href={code("svg")} download={`${link.code}.svg`}>
              SVG
            </a>
            <a className="under hover:text-berry" href={code("png")} download={`${link.code}.png`}>
              PNG
            </a>
          </p>
        </div>
      </div>
      <dl className="mt-2 grid grid-cols-3 gap-2">
        <div>
          <dt className="label">Campaign</dt>
          <dd>{link.campaign ?? "none"}</dd>
        </div>
        <div>
          <dt className="label">Made</dt>
          <dd>
            {moment(link.created_at, brand.time_zone)}
            {link.owner && ` by ${link.owner}`}
          </dd>
        </div>
        <div>
          <dt className="label">{link.is_paused ? "State" : "Ends"}</dt>
          <dd className={link.is_paused ? "font-semibold text-down" : ""}>
            {link.is_paused ? "paused" : link.ends_at ? moment(link.ends_at, brand.time_zone) : "never"}
          </dd>
        </div>
      </dl>
      {link.over_in_period > 0 && (
        <p className="mt-2 font-semibold">
          {plural(link.over_in_period, "person", "people")} came after it had ended and saw the brand's page.
        </p>
      )}
      {link.may_change ? (
        <p className="mt-3 flex gap-4">
          <Button onClick={() => setChanging(true)}>Change it</Button>
          <Button
            kind="quiet"
            isBusy={change.isPending}
            onClick={() =>
              change.mutate(
                { is_paused: !link.is_paused },
                {
                  onSuccess: () => say(link.is_paused ? "The link leads on again." : "The link is paused."),
                  onError: (error) => say(error.message, "wrong"),
                },
              )
            }
          >
            {link.is_paused ? "Let it lead on" : "Pause it"}
          </Button>
        </p>
      ) : (
        link.owner && <p className="label mt-3">{link.owner} owns this link and alone may change it.</p>
      )}
      {link.former.length > 0 && (
        <details className="mt-3">
          <summary className="cursor-pointer">Led elsewhere before ({link.former.length})</summary>
          <ul>
            {link.former.map((former) => (
              <li key={former.until} className="rowline py-1 break-all">
                {former.target}
                <span className="label block">
                  until {moment(former.until, brand.time_zone)}
                  {former.by && `, changed by ${former.by}`}
                </span>
              </li>
            ))}
          </ul>
        </details>
      )}
      <Sheet isOpen={isChanging} onClose={() => setChanging(false)} title="Change the link">
        <ChangeLinkForm
          link={link}
          onDone={() => {
            setChanging(false);
            say("The link is changed. Its short address stays.");
          }}
        />
      </Sheet>
    </section>
  );
}
