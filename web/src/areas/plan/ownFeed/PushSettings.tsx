import { ProblemError } from "../../../api/client";
import { plural } from "../../../lib/format";
import { useBrand } from "../../../study/brand";
import { Button } from "../../../ui/Button";
import { CopyButton } from "../../../ui/CopyButton";
import { useToast } from "../../../ui/Toast";
import { type Push, usePushActs } from "./queries";

/** Where people ask for messages, on a page of ours or on one's own site, and whether any are sent. */
export function PushSettings({ channel }: { channel: Push }) {
  const { brand, can } = useBrand();
  const say = useToast();
  const { set } = usePushActs(brand.slug);
  const error = set.error instanceof ProblemError ? set.error : null;
  const turn = (is_on: boolean) =>
    set.mutateAsync({ is_on, edition: channel.edition }).then(
      () => say(is_on ? "People can ask for messages now." : "No messages are sent any more."),
      () => undefined,
    );
  return (
    <div className="flex flex-col gap-3">
      {channel.edition === 0 ? (
        <p>
          People who press a button on your site see a line of each new post on their screen, also when they are
          elsewhere. Nobody’s name or address is asked for; whoever wants no more says so in the same place.
        </p>
      ) : (
        <>
          <p>
            <b className="text-[22px]">{plural(channel.browsers, "browser")}</b> asked for messages
            {!channel.is_on && <span className="label block">None are sent: they are switched off.</span>}
          </p>
          <Piece title="A page to ask on" text={channel.page} href={channel.is_on ? channel.page : undefined}>
            Link to it from your site or your profiles.
          </Piece>
          <Piece title="Or a button of your own: this line on the page" text={channel.script}>
            Every <code>{"<button data-messages>"}</code> on the page becomes that button.
          </Piece>
          <Piece title="and this one in a file /messages.js" text={channel.worker}>
            Browsers let a site’s own file alone show messages.
          </Piece>
        </>
      )}
      {error && (
        <p className="text-down" role="alert">
          {error.message}
        </p>
      )}
      {can("plan.publish") && (
        <span>
          <Button kind={channel.is_on ? undefined : "main"} isBusy={set.isPending} onClick={() => turn(!channel.is_on)}>
            {channel.edition === 0 ? "Offer messages" : channel.is_on ? "Switch them off" : "Switch them on"}
          </Button>
        </span>
      )}
    </div>
  );
}

function Piece({
  title,
  text,
  href,
  children,
}: {
  title: string;
  text: string;
  href?: string;
  children: React.ReactNode;
}) {
  return (
    <div>
      <h2 className="text-[13px] font-semibold">{title}</h2>
      <p className="flex flex-wrap items-center gap-2">
        {href ? (
          <a href={href} className="under break-all hover:text-berry">
            {text}
          </a>
        ) : (
          <code className="break-all">{text}</code>
        )}
        <CopyButton text={text} said="Copied." />
      </p>
      <p className="label mt-1">{children}</p>
    </div>
  );
}
