import { useState } from "react";
import { useForm } from "react-hook-form";
import type { ProblemError } from "../../api/client";
import { figure, percent, plural } from "../../lib/format";
import { AreaFrame } from "../../study/AreaFrame";
import { useBrand } from "../../study/brand";
import { useStudy } from "../../study/study";
import { Button } from "../../ui/Button";
import { CopyButton } from "../../ui/CopyButton";
import { CheckEntry, Entry, Form } from "../../ui/Form";
import { Sheet } from "../../ui/Sheet";
import { Empty, Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { type LinkPageData, useLinks, usePages, useRemovePage, useSavePage } from "./queries";

/** Pages that list the brand's current links, for networks that allow none in their texts. */
export function PagesPage() {
  const { brand, can } = useBrand();
  const canChange = can("links.pages");
  const { study } = useStudy();
  const pages = usePages(brand.slug, study);
  const remove = useRemovePage(brand.slug);
  const [edited, setEdited] = useState<LinkPageData | "new" | null>(null);
  const say = useToast();
  const make = canChange && (
    <Button kind="main" className="!h-7" onClick={() => setEdited("new")}>
      Make a page
    </Button>
  );
  return (
    <AreaFrame area="links" actions={make}>
      <section className="min-h-0 flex-1 overflow-y-auto px-5 py-3" aria-labelledby="pages-title">
        <h1 id="pages-title" className="text-[18px] leading-6">
          Pages of links
        </h1>
        <p className="label">
          Put their address into a profile where texts may hold no links. Each entry's clicks count as the page's.
        </p>
        {pages.error ? (
          <Failed error={pages.error} onRetry={() => pages.refetch()} />
        ) : !pages.data ? (
          <Loading what="Loading the pages" />
        ) : pages.data.length === 0 ? (
          <Empty title="No page yet" action={make}>
            A page lists what is on now: tickets, the exhibition, the next workshop. Change it whenever you like; its
            address stays.
          </Empty>
        ) : (
          <ul className="mt-2">
            {pages.data.map((page) => (
              <li key={page.id} className="rowline grid grid-cols-[1fr_auto] gap-4 py-3">
                <div>
                  <h2 className="text-[16px]">
                    {page.title} {!page.is_shown && <span className="label">hidden</span>}
                  </h2>
                  <p className="flex items-center gap-1">
                    <a href={page.address} target="_blank" rel="noreferrer" className="under hover:text-berry">
                      {page.address}
                    </a>
                    <CopyButton text={page.address} said="The address is copied." />
                  </p>
                  <p className="label">
                    {page.entries.map((entry) => entry.title).join(" · ") || "It lists nothing at the moment."}
                  </p>
                </div>
                <div className="text-right">
                  <p>
                    <b>{figure(page.clicks)}</b> {page.clicks === 1 ? "click" : "clicks"} in these days
                  </p>
                  {page.views !== null && (
                    <p className="label">
                      {page.views > 0 && page.clicks <= page.views
                        ? `of ${plural(page.views, "opening")}, ${percent(page.clicks / page.views)}`
                        : plural(page.views, "opening")}
                    </p>
                  )}
                  {canChange && (
                    <p className="flex justify-end gap-3">
                      <Button kind="quiet" onClick={() => setEdited(page)}>
                        Change
                      </Button>
                      <Button
                        kind="quiet"
                        onClick={() =>
                          remove.mutate(page.id, {
                            onSuccess: () => say(`${page.title} is taken away. Its clicks stay.`),
                            onError: (error) => say(error.message, "wrong"),
                          })
                        }
                      >
                        Take away
                      </Button>
                    </p>
                  )}
                </div>
              </li>
            ))}
          </ul>
        )}
      </section>
      <Sheet
        isOpen={edited !== null}
        onClose={() => setEdited(null)}
        title={edited === "new" ? "Make a page of links" : "Change the page"}
      >
        {edited && (
          <PageForm
            key={edited === "new" ? "new" : edited.id}
            page={edited === "new" ? null : edited}
            onDone={(title) => {
              setEdited(null);
              say(`${title} is shown as it is now.`);
            }}
          />
        )}
      </Sheet>
    </AreaFrame>
  );
}

type Listed = { link_id: number; title: string };

function PageForm({ page, onDone }: { page: LinkPageData | null; onDone: (title: string) => void }) {
  const { brand } = useBrand();
  const { study } = useStudy();
  const links =
    useLinks(brand.slug, { first: study.first, last: study.last, compare: study.compare }).data?.links ?? [];
  const save = useSavePage(brand.slug);
  const form = useForm({
    defaultValues: {
      title: page?.title ?? "",
      slug: page?.slug ?? "",
      words: page?.words ?? "",
      is_shown: page?.is_shown ?? true,
    },
  });
  const [entries, setEntries] = useState<Listed[]>(
    page?.entries.map((e) => ({ link_id: e.link_id, title: e.title ?? "" })) ?? [],
  );
  const problem = save.error as ProblemError | null;
  const nameOf = (id: number) => links.find((l) => l.id === id)?.name ?? "";
  const move = (from: number, to: number) => {
    const next = [...entries];
    const [taken] = next.splice(from, 1);
    if (taken) next.splice(to, 0, taken);
    setEntries(next);
  };
  return (
    <Form
      form={form}
      error={save.error}
      saidElsewhere={["entries"]}
      className="flex flex-col gap-3.5"
      onSubmit={(given) =>
        save.mutate({ id: page?.id, body: { ...given, entries } }, { onSuccess: () => onDone(given.title) })
      }
    >
      <Entry form={form} name="title" label="Title">
        {(field) => <input {...field} />}
      </Entry>
      <Entry form={form} name="slug" label="Address" help="a word, such as the brand's name">
        {(field) => <input {...field} />}
      </Entry>
      <Entry form={form} name="words" label="Words above the list">
        {(field) => <input {...field} />}
      </Entry>
      <fieldset className="border-t border-rule pt-2">
        <legend className="pr-2 text-[13px] font-semibold">{plural(entries.length, "entry", "entries")}</legend>
        {problem?.fields.entries && <p className="text-down">{problem.fields.entries}</p>}
        <ol>
          {entries.map((entry, i) => (
            <li key={entry.link_id} className="rowline flex items-center gap-2 py-1">
              <input
                aria-label={`Title of ${nameOf(entry.link_id)}`}
                value={entry.title}
                placeholder={nameOf(entry.link_id)}
                onChange={(e) =>
                  setEntries(entries.map((old, j) => (j === i ? { ...old, title: e.target.value } : old)))
                }
                className="h-7 min-w-0 flex-1 border border-rule-strong bg-panel px-2"
              />
              <Button kind="quiet" type="button" disabled={i === 0} onClick={() => move(i, i - 1)}>
                Up
              </Button>
              <Button kind="quiet" type="button" onClick={() => setEntries(entries.filter((_, j) => j !== i))}>
                Out
              </Button>
            </li>
          ))}
        </ol>
        <select
          aria-label="Add a link"
          value=""
          className="mt-2 h-8 w-full border border-rule-strong bg-panel px-2"
          onChange={(e) => {
            const link_id = Number(e.target.value);
            if (link_id) setEntries([...entries, { link_id, title: nameOf(link_id) }]);
          }}
        >
          <option value="">Add a link …</option>
          {links
            .filter((l) => !entries.some((e) => e.link_id === l.id))
            .map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}
              </option>
            ))}
        </select>
      </fieldset>
      <CheckEntry form={form} name="is_shown">
        Shown to visitors
      </CheckEntry>
      <Button kind="main" type="submit" isBusy={save.isPending} className="self-start">
        Keep the page
      </Button>
    </Form>
  );
}
