import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { BROWSERS } from "../../api/keys";
import { since } from "../../lib/format";
import { able, markHere, subscribe, unsubscribe } from "../../lib/pushes";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { Notice } from "../../ui/States";
import { type Browsers, forgetBrowser, keepBrowser, readBrowsers } from "./queries";

export function useBrowsers() {
  return useQuery({
    queryKey: BROWSERS,
    queryFn: async () => {
      const [found, here] = await Promise.all([readBrowsers(), markHere()]);
      return { ...found, here };
    },
  });
}

/** Which of one's browsers show notices, and this one. */
export function BrowserList({ found }: { found: Browsers & { here: string | null } }) {
  const { now } = useBrand();
  const client = useQueryClient();
  const asked = () => client.invalidateQueries({ queryKey: BROWSERS });
  const begin = useMutation({
    mutationFn: async () => {
      const { endpoint = "", keys } = await subscribe(found.key);
      const body = { endpoint, keys: { p256dh: keys?.p256dh ?? "", auth: keys?.auth ?? "" } };
      return keepBrowser(body);
    },
    onSuccess: asked,
  });
  const end = useMutation({
    mutationFn: async (one: Browsers["browsers"][number]) => {
      if (one.mark === found.here) await unsubscribe();
      return forgetBrowser(one.id);
    },
    onSettled: asked,
  });
  const isHere = found.browsers.some((one) => one.mark === found.here);
  const can = able();
  const error = begin.error ?? end.error;
  return (
    <section aria-labelledby="browsers-title" className="mt-5 max-w-3xl">
      <h2 id="browsers-title" className="text-[16px]">
        {found.browsers.length === 0 ? "No browser of yours shows them yet" : "Browsers that show them"}
      </h2>
      <ul>
        {found.browsers.map((one) => (
          <li key={one.id} className="rowline flex h-9 items-center gap-3">
            <span className="min-w-0 flex-1 truncate">
              {one.device}
              {one.mark === found.here && <span className="label">, this one</span>}
            </span>
            <span className="label">since {since(one.since, now)}</span>
            <Button kind="quiet" isBusy={end.isPending} onClick={() => end.mutate(one)}>
              No more<span className="sr-only"> on {one.device}</span>
            </Button>
          </li>
        ))}
      </ul>
      {error && <Notice kind="wrong">{error.message}</Notice>}
      {can === "yes" && !isHere && (
        <Button className="mt-2" isBusy={begin.isPending} onClick={() => begin.mutate()}>
          Show them in this browser
        </Button>
      )}
      {can === "refused" && !isHere && (
        <p className="label">This browser was told to show nothing of this page. Its own settings change that.</p>
      )}
      {can === "no" && <p className="label">This browser cannot show any: it takes an address with https.</p>}
    </section>
  );
}
