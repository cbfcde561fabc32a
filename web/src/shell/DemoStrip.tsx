import { useState } from "react";
import { useNavigate } from "react-router";
import { dayOf, shortDay } from "../lib/days";
import { useBrand } from "../study/brand";
import { useDemo, useSession, useTakeDemoAway } from "../study/queries";
import { Button } from "../ui/Button";
import { Sheet } from "../ui/Sheet";

/** Above everything in a demo: that its figures are invented, until when it stands, and the way to be rid of it. */
export function DemoStrip() {
  const { brand } = useBrand();
  return brand.is_demo ? <Strip /> : null;
}

const WORDS: Record<string, string> = {
  waiting: "The demo is being made: its figures stand here in a minute or two.",
  failed: "The demo could not be made. Take it away, and ask for it once more on the page of a new brand.",
};

function Strip() {
  const { brand } = useBrand();
  const { data } = useDemo();
  const session = useSession();
  const away = useTakeDemoAway();
  const navigate = useNavigate();
  const [isAsking, setAsking] = useState(false);
  const home = session.data?.brands.find((one) => one.slug !== brand.slug);
  return (
    <section
      aria-label="This is the demo"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule bg-wash px-5 py-1 text-[13.5px] narrow:px-3 print:hidden"
    >
      <span role="status">
        {WORDS[data?.state ?? ""] ??
          "Invented figures, to look around. Whom you do not invite sees nothing of them, and nothing goes out by itself."}
        {data?.until && data.state === "ready" && ` Gone by itself on ${shortDay(dayOf(data.until, brand.time_zone))}.`}
      </span>
      <Button kind="quiet" onClick={() => setAsking(true)}>
        Take the demo away
      </Button>
      <Sheet form="dialog" isOpen={isAsking} title="Take the demo away?" onClose={() => setAsking(false)}>
        <p>What you tried out in it goes along. Your own brands stay as they are; the demo can be made anew.</p>
        {away.error && (
          <p role="alert" className="mt-2 text-down">
            {away.error.message}
          </p>
        )}
        <Button
          kind="danger"
          className="mt-4 self-start"
          isBusy={away.isPending}
          onClick={() => away.mutate(undefined, { onSuccess: () => navigate(home ? `/${home.slug}/results` : "/") })}
        >
          Take it away
        </Button>
      </Sheet>
    </section>
  );
}
