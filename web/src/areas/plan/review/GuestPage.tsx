import { useEffect, useState } from "react";
import { ProblemError } from "../../../api/client";
import { moment } from "../../../lib/days";
import { Empty, Failed, Loading } from "../../../ui/States";
import type { Review } from "./queries";
import { useGuestPage, useGuestPost, useGuestReviewing } from "./queries";
import { type About, SeenPost } from "./SeenPost";
import { Talk } from "./Talk";

const ORDER = ["look", "comment", "vote", "approve"];
const STATES: Record<string, string> = {
  in_review: "being looked at",
  approved: "approved",
  scheduled: "goes out",
  publishing: "going out",
  published: "out",
  by_hand: "goes out by hand",
};

/** What somebody without an account sees of a plan: posts to look at, to talk about, and to say yes to. On a phone. */
export function GuestPage() {
  // What stands behind the # is the key: it is traded for a cookie and taken out of the address.
  const [key] = useState(() => window.location.hash.slice(1));
  const page = useGuestPage(key);
  const [open, setOpen] = useState<number | null>(null);
  useEffect(() => {
    if (page.data && window.location.hash) window.history.replaceState(null, "", window.location.pathname);
  }, [page.data]);
  if (page.error instanceof ProblemError && page.error.status === 404)
    return (
      <Empty title="This link opens nothing">
        It has ended, or was taken back. Ask whoever sent it to you for another.
      </Empty>
    );
  if (page.error) return <Failed error={page.error} onRetry={() => page.refetch()} />;
  if (!page.data) return <Loading what="Opening" />;
  const { data } = page;
  const waiting = data.posts.filter((post) => post.waits).length;
  const can = (what: string) => ORDER.indexOf(data.may) >= ORDER.indexOf(what);
  return (
    <div className="mx-auto flex min-h-screen w-full max-w-[680px] flex-col px-4 py-3">
      <header className="border-b border-rule-strong pb-2">
        <h1 className="text-[20px]">{data.brand}: what is planned</h1>
        <p className="label">
          For {data.name}, in hours of {data.zone}, until {moment(data.until, data.zone)}.
        </p>
      </header>
      <main className="flex-1">
        {open !== null ? (
          <GuestPost
            key={open}
            id={open}
            zone={data.zone}
            networks={data.networks}
            canRemark={can("comment")}
            canVote={can("vote")}
            onBack={() => setOpen(null)}
          />
        ) : (
          <>
            <p role="status" className="mt-2 font-semibold">
              {waiting === 0
                ? "Nothing waits for your yes."
                : `${waiting} ${waiting === 1 ? "post waits" : "posts wait"} for your yes.`}
            </p>
            <ul>
              {data.posts.map((post) => (
                <li key={post.id} className="rowline">
                  <button
                    type="button"
                    onClick={() => setOpen(post.id)}
                    className="flex w-full items-start gap-3 py-2.5 text-left hover:text-berry"
                  >
                    {post.picture !== null && (
                      <img
                        src={`/api/guest/posts/${post.id}/pictures/${post.picture}`}
                        alt=""
                        className="h-14 w-14 shrink-0 object-cover"
                      />
                    )}
                    <span className="min-w-0 flex-1">
                      <span className="block break-words font-semibold">{post.title || post.text || "Untitled"}</span>
                      {post.title && <span className="line-clamp-2 break-words">{post.text}</span>}
                      <span className="label block">
                        {post.at ? moment(post.at, data.zone) : "no time yet"},{" "}
                        {post.networks.map((network) => data.networks[network] ?? network).join(", ")};{" "}
                        {post.waits ? (
                          <span className="font-semibold text-berry">waits for you</span>
                        ) : (
                          (STATES[post.state] ?? post.state)
                        )}
                      </span>
                    </span>
                  </button>
                </li>
              ))}
            </ul>
            {data.posts.length === 0 && <p className="mt-2 text-muted">There is nothing to be seen yet.</p>}
          </>
        )}
      </main>
    </div>
  );
}

type PostProps = {
  id: number;
  zone: string;
  networks: Record<string, string>;
  canRemark: boolean;
  canVote: boolean;
  onBack: () => void;
};

function GuestPost({ id, zone, networks, canRemark, canVote, onBack }: PostProps) {
  const post = useGuestPost(id);
  const doing = useGuestReviewing(id);
  const [about, setAbout] = useState<About | null>(null);
  const looked = doing.looked.mutate;
  useEffect(() => () => looked(), [looked]);
  const review: Review | undefined = post.data;
  return (
    <div className="py-2">
      <button type="button" className="under min-h-6 hover:text-berry" onClick={onBack}>
        All posts
      </button>
      {post.error ? (
        <Failed error={post.error} onRetry={() => post.refetch()} />
      ) : !review ? (
        <Loading what="Opening the post" />
      ) : (
        <>
          {review.title && <h2 className="text-[18px]">{review.title}</h2>}
          <SeenPost
            review={review}
            zone={zone}
            networks={networks}
            picture={(asset) => `/api/guest/posts/${id}/pictures/${asset}`}
            onAbout={canRemark ? setAbout : undefined}
          />
          <div className="mt-4">
            <Talk
              review={review}
              zone={zone}
              networks={networks}
              about={about}
              onAbout={setAbout}
              say={doing.say}
              remark={canRemark ? doing.remark : undefined}
              vote={canVote ? doing.vote : undefined}
            />
          </div>
        </>
      )}
    </div>
  );
}
