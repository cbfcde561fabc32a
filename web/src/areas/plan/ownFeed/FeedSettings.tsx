import { useTypedForm } from "../../../lib/useTyped";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { CopyButton } from "../../../ui/CopyButton";
import { CheckEntry, Entry, Form } from "../../../ui/Form";
import { useToast } from "../../../ui/Toast";
import { type OwnFeed, useOwnFeedActs } from "./queries";

/** The feed's title and site, its address, and whether it is read. */
export function FeedSettings({ feed }: { feed: OwnFeed }) {
  const { brand, can } = useBrand();
  const say = useToast();
  const { set } = useOwnFeedActs(brand.slug);
  const isNew = feed.edition === 0;
  const { form, begin } = useTypedForm(`dakika.own-feed/${brand.slug}/${feed.edition}`, {
    title: feed.title,
    site: feed.site,
    is_on: isNew || feed.is_on,
  });
  const isEditable = can("plan.publish");
  return (
    <Form
      form={form}
      error={set.error}
      className="flex flex-col gap-3"
      onSubmit={(typed) => {
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
        <Entry form={form} name="title" label="Title">
          {(field) => <input {...field} maxLength={120} />}
        </Entry>
        <Entry form={form} name="site" label="The site that it is of" help="Where items without a link lead">
          {(field) => <input {...field} type="url" maxLength={500} />}
        </Entry>
        <CheckEntry
          form={form}
          name="is_on"
          help="Switched off, its address answers that there is no such feed; what stands in it stays here."
        >
          It is read
        </CheckEntry>
        {isEditable && (
          <Button type="submit" kind="main" isBusy={set.isPending} disabled={!form.watch("title").trim()}>
            {isNew ? "Make the feed" : "Keep it so"}
          </Button>
        )}
      </fieldset>
    </Form>
  );
}
