import { Link, useLocation, useParams } from "react-router";
import { useBrand } from "../../app/brand";
import { MinuteLine } from "../../app/line/MinuteLine";
import { StudySentence } from "../../app/StudySentence";
import { useStudy } from "../../app/study";
import { moment } from "../../lib/days";
import { figure, plural } from "../../lib/format";
import { Failed, Loading } from "../../ui/States";
import { ClickChart } from "./ClickChart";
import { CopyButton } from "./CopyButton";
import { useLink } from "./queries";

export function LinkPage() {
  const { brand } = useBrand();
  const { study } = useStudy();
  const { link: id } = useParams();
  const { search } = useLocation();
  const found = useLink(brand.slug, Number(id), study);
  const link = found.data?.link;
  return (
    <>
      <MinuteLine />
      <StudySentence has={[]} />
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !found.data || !link ? (
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
            <ClickChart
              first={found.data.period.first}
              breakdown={found.data.breakdown}
              title={`${plural(link.clicks_in_period, "click")} in these days, ${figure(link.clicks_ever)} ever`}
            />
          </div>
          <section className="min-w-0 overflow-y-auto px-5 py-3">
            <h1 className="text-[18px] leading-6">{link.name}</h1>
            <dl className="mt-3 flex flex-col gap-3">
              <div>
                <dt className="label">Short address</dt>
                <dd className="flex items-center gap-1 text-[16px] font-semibold">
                  <a href={link.short} target="_blank" rel="noreferrer" className="under break-all hover:text-berry">
                    {link.short}
                  </a>
                  <CopyButton text={link.short} />
                </dd>
              </div>
              <div>
                <dt className="label">Leads to</dt>
                <dd className="break-all">{link.target}</dd>
              </div>
              <div>
                <dt className="label">Campaign</dt>
                <dd>{link.campaign ?? "none"}</dd>
              </div>
              <div>
                <dt className="label">Made</dt>
                <dd>{moment(link.created_at, brand.time_zone)}</dd>
              </div>
              <div>
                <dt className="label">Stands in</dt>
                <dd>
                  {link.post_id ? (
                    <Link
                      to={`/${brand.slug}/results/posts/${link.post_id}${search}`}
                      className="under font-semibold hover:text-berry"
                    >
                      the post that carried it
                    </Link>
                  ) : (
                    "no post that we know of"
                  )}
                </dd>
              </div>
            </dl>
          </section>
        </div>
      )}
    </>
  );
}
