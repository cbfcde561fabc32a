import { Link } from "react-router";
import { moment } from "../../../lib/days";
import { figure } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { MinuteLine } from "../../../study/line/MinuteLine";
import { Button } from "../../../ui/Button";
import { Empty, Failed, Loading } from "../../../ui/States";
import { ClicksOf } from "./ClicksOf";
import { PushSettings } from "./PushSettings";
import { type PushMessage, usePush } from "./queries";

/** Messages to browsers: how people ask for them, what was sent, how often each was shown and followed. */
export function MessagesPage() {
  const { brand } = useBrand();
  const found = usePush(brand.slug);
  const channel = found.data?.pages[0]?.channel;
  const messages = found.data?.pages.flatMap((page) => page.messages) ?? [];
  return (
    <>
      <MinuteLine turned="future" hasBrush={false} />
      <div className="flex min-h-[34px] flex-wrap items-center gap-x-3 border-b border-rule px-5 narrow:px-3">
        <Link to={`/${brand.slug}/plan`} className="under hover:text-berry">
          Calendar
        </Link>
        <Link to={`/${brand.slug}/plan/feed`} className="under hover:text-berry">
          The site’s own feed
        </Link>
        <h1 className="text-[16px]">Messages to browsers</h1>
        <span className="label">Posts that also appear as a line on the screens of those who asked for it</span>
      </div>
      {found.error ? (
        <Failed error={found.error} onRetry={() => found.refetch()} />
      ) : !channel ? (
        <Loading what="Loading the messages" />
      ) : (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(280px,360px)_minmax(0,1fr)]">
          <section
            className="min-w-0 overflow-y-auto border-r border-rule px-5 py-3 narrow:px-3"
            aria-label="How it is set up"
          >
            <PushSettings key={channel.edition} channel={channel} />
          </section>
          <section className="min-w-0 overflow-y-auto px-5 py-3 narrow:px-3" aria-label="What was sent" tabIndex={0}>
            {messages.length === 0 ? (
              <Empty title="Nothing was sent yet">
                Tick “Also as a message” where you write a post. It is sent as soon as the post is out.
              </Empty>
            ) : (
              <Sent messages={messages} />
            )}
            {found.hasNextPage && (
              <Button className="mt-2" isBusy={found.isFetchingNextPage} onClick={() => found.fetchNextPage()}>
                Earlier ones
              </Button>
            )}
          </section>
        </div>
      )}
    </>
  );
}

function Sent({ messages }: { messages: PushMessage[] }) {
  const { brand } = useBrand();
  return (
    <table className="w-full">
      <caption className="label text-left">
        Taken: by the browsers’ push services, of those that were asked. Shown: told by the browsers themselves, each
        once. Clicks: people’s, on the message’s own link.
      </caption>
      <thead className="label">
        <tr className="rowline">
          <th className="text-left font-normal">Message</th>
          <th className="text-left font-normal">Sent</th>
          <th className="text-right font-normal">Taken</th>
          <th className="pl-3 text-right font-normal">Shown</th>
          <th className="pl-3 text-right font-normal">Clicks</th>
        </tr>
      </thead>
      <tbody>
        {messages.map((one) => (
          <tr key={one.id} className="rowline">
            <td className="py-1.5 pr-3">
              {one.post === null ? (
                <span className="break-words font-semibold">{one.title}</span>
              ) : (
                <Link to={`/${brand.slug}/plan/${one.post}`} className="under break-words hover:text-berry">
                  {one.title}
                </Link>
              )}
              {one.text && <span className="label block break-words">{one.text}</span>}
            </td>
            <td className="label whitespace-nowrap py-1.5 pr-3">{moment(one.made_at, brand.time_zone)}</td>
            <td className="whitespace-nowrap py-1.5 text-right">
              {figure(one.taken)} of {figure(one.asked)}
              <span className="label block">{fate(one)}</span>
            </td>
            <td className="py-1.5 pl-3 text-right font-semibold">{figure(one.views)}</td>
            <td className="py-1.5 pl-3 text-right">
              <ClicksOf link={one.link} clicks={one.clicks} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What became of the browsers that did not take it. */
function fate(one: PushMessage): string {
  const waiting = one.asked - one.taken - one.gone - one.failed;
  return [
    waiting > 0 && `${figure(waiting)} on the way`,
    one.gone > 0 && `${figure(one.gone)} gone`,
    one.failed > 0 && `${figure(one.failed)} failed`,
  ]
    .filter(Boolean)
    .join(", ");
}
