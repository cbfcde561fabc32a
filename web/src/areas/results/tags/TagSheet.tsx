import { useState } from "react";
import { Link, useLocation } from "react-router";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { useTags } from "../../../study/queries";
import { carriedAll } from "../../../study/study";
import { Button } from "../../../ui/Button";
import { inputLook } from "../../../ui/Field";
import { Sheet } from "../../../ui/Sheet";
import { useToast } from "../../../ui/Toast";
import { type PostRow, useTagPosts } from "../queries";
import { TagMark } from "./TagMark";

type Props = { isOpen: boolean; onClose: () => void; posts: number[]; rows: Pick<PostRow, "id" | "tags">[] };

/** Put tags on the picked posts or take them off. A name that is no tag yet becomes one with Enter. */
export function TagSheet({ isOpen, onClose, posts, rows }: Props) {
  const { brand } = useBrand();
  const tags = useTags(brand.slug).data ?? [];
  const [text, setText] = useState("");
  const { search } = useLocation();
  // What was just put on leads to the question it was put on for.
  const [isTagged, setTagged] = useState(false);
  const change = useTagPosts(brand.slug);
  const say = useToast();
  const picked = rows.filter((row) => posts.includes(row.id));
  const shown = tags.filter((t) => t.name.toLowerCase().includes(text.trim().toLowerCase()));
  const isNew = text.trim() !== "" && !tags.some((t) => t.name.toLowerCase() === text.trim().toLowerCase());
  const put = (add: string[], take_off: number[]) =>
    change.mutate(
      { posts, add, take_off },
      {
        onSuccess: (done) => {
          say(done?.changed ? `${plural(done.changed, "post")} changed.` : "Nothing had to be changed.");
          setText("");
          if (add.length > 0) setTagged(true);
        },
        onError: (error) => say(error.message, "wrong"),
      },
    );
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title={`Tags of ${plural(posts.length, "post")}`} form="dialog">
      <input
        // biome-ignore lint/a11y/noAutofocus: the dialog was asked for in order to type here
        autoFocus
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "Enter" && text.trim())
            put([shown.length === 1 && !isNew ? (shown[0]?.name ?? text) : text], []);
        }}
        placeholder="Find a tag, or name a new one"
        aria-label="Find a tag, or name a new one"
        maxLength={60}
        className={inputLook}
      />
      <ul className="mt-2 max-h-[40vh] overflow-y-auto" aria-label="Tags">
        {isNew && (
          <li className="rowline py-1">
            <Button kind="quiet" isBusy={change.isPending} onClick={() => put([text], [])}>
              Make the tag “{text.trim()}” and put it on
            </Button>
          </li>
        )}
        {shown.map((tag) => {
          const on = picked.filter((row) => row.tags.includes(tag.id)).length;
          return (
            <li key={tag.id} className="rowline flex h-8 items-center justify-between gap-3">
              <TagMark name={tag.name} colour={tag.colour} />
              <span className="flex items-center gap-3">
                <span className="label">{on === 0 ? "" : on === posts.length ? "on all" : `on ${on}`}</span>
                {on < posts.length && (
                  <Button kind="quiet" disabled={change.isPending} onClick={() => put([tag.name], [])}>
                    put on
                  </Button>
                )}
                {on > 0 && (
                  <Button kind="quiet" disabled={change.isPending} onClick={() => put([], [tag.id])}>
                    take off
                  </Button>
                )}
              </span>
            </li>
          );
        })}
      </ul>
      <div className="mt-4 flex items-center justify-between">
        {isTagged ? (
          <Link to={`/${brand.slug}/results/groups${byTag(search)}`} className="under hover:text-berry">
            Compare with the rest
          </Link>
        ) : (
          <span />
        )}
        <Button kind="main" onClick={onClose}>
          Done
        </Button>
      </div>
    </Sheet>
  );
}

const byTag = (search: string) => {
  const query = new URLSearchParams(carriedAll(search));
  query.set("by", "tag");
  return `?${query}`;
};
