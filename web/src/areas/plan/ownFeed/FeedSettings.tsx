import { ProblemError } from "../../../api/client";
import { useTyped } from "../../../lib/useTyped";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { Check } from "../../../ui/Check";
import { CopyButton } from "../../../ui/CopyButton";
import { Field } from "../../../ui/Field";
import { useToast } from "../../../ui/Toast";
import { type OwnFeed, useOwnFeedActs } from "./queries";

/** The feed's title and site, its address, and whether it is read. */
export function FeedSettings({ feed }: { feed: OwnFeed }) {
  const { brand, can } = useBrand();
  const say = useToast();
  const { set } = useOwnFeedActs(brand.slug);
  const isNew = feed.edition === 0;
  const [typed, setTyped, begin] = useTyped(`dakika.own-feed/${brand.slug}/${feed.edition}`, {
    title: feed.title,
    site: feed.site,
    is_on: isNew || feed.is_on,
  });
  const error = set.error instanceof ProblemError ? set.error : null;
  const isEditable = can("plan.publish");
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        set.mutateAsync({ ...typed, edition: feed.edition }).then(
          () => {
            begin(typed);
            say(isNew ? "The feed is there. Put its address into your site." : "Kept.");
          },
          () => undefined,
        );
      }}
    >
      {feed.address && (
        <div>
          <h2 className="text-[13px] font-semibold">Its address</h2>
          <p className="flex flex-wrap items-center gap-2">
            <a href={feed.address} className="under break-all hover:text-berry">
              {feed.address}
            </a>
            <CopyButton text={feed.address} said="Copied." />
          </p>
          <p className="label mt-1">
            Readers find it by a line in the head of your pages:{" "}
            <code className="break-all">{`<link rel="alternate" type="application/atom+xml" href="${feed.address}">`}</code>
          </p>
        </div>
      )}
      <fieldset disabled={!isEditable} className="flex flex-col gap-3">
        <Field label="Title" error={error?.fields.title}>
          {(props) => (
            <input
              {...props}
              maxLength={120}
              value={typed.title}
              onChange={(event) => setTyped({ ...typed, title: event.target.value })}
            />
          )}
        </Field>
        <Field label="The site that it is of" help="Where items without a link lead" error={error?.fields.site}>
          {(props) => (
            <input
              {...props}
              type="url"
              maxLength={500}
              value={typed.site}
              onChange={(event) => setTyped({ ...typed, site: event.target.value })}
            />
          )}
        </Field>
        <Check
          isOn={typed.is_on}
          onChange={(is_on) => setTyped({ ...typed, is_on })}
          help="Switched off, its address answers that there is no such feed; what stands in it stays here."
        >
          It is read
        </Check>
        {error && Object.keys(error.fields).length === 0 && (
          <p className="text-down" role="alert">
            {error.message}
          </p>
        )}
        {isEditable && (
          <Button type="submit" kind="main" isBusy={set.isPending} disabled={!typed.title.trim()}>
            {isNew ? "Make the feed" : "Keep it so"}
          </Button>
        )}
      </fieldset>
    </form>
  );
}
