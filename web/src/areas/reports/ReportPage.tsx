import { type KeyboardEvent, useRef, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { BasisProvider } from "../../figures/FigureValue";
import { printedText } from "../../figures/printing";
import { numbersIn } from "../../lib/numbers";
import { useBrand } from "../../study/brand";
import { MinuteLine } from "../../study/line/MinuteLine";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { Failed, Loading } from "../../ui/States";
import { useToast } from "../../ui/Toast";
import { contentOf as assetOf } from "../media";
import { AddFigure } from "./AddFigure";
import { AlignPanel } from "./AlignPanel";
import { CoverPage } from "./CoverPage";
import {
  type Alignment,
  added,
  aligned,
  copiedPage,
  emptyPage,
  type Item,
  movedPage,
  newName,
  pageOf,
  placed,
  withItem,
  withoutItem,
  withoutPage,
  withPage,
} from "./edit";
import { GridPage } from "./GridPage";
import { ItemPanel } from "./ItemPanel";
import { PageList } from "./PageList";
import { PageWords } from "./PageWords";
import { type Report, useReport, useReportPdf, useShown } from "./queries";
import { ReportPanel } from "./ReportPanel";
import { RunPage } from "./RunPage";
import { Scaled } from "./Scaled";
import { Sharing } from "./Sharing";
import { SheetPage, Title } from "./SheetPage";
import { type Saving, useEditing } from "./useEditing";
import { VersionsSheet } from "./VersionsSheet";

/** A report: its pages as on paper, where figures are placed, words corrected, and from where it goes out. */
export function ReportPage() {
  const { brand } = useBrand();
  const id = Number(useParams().report);
  const [params] = useSearchParams();
  const run = Number(params.get("run"));
  const report = useReport(brand.slug, id);
  if (run > 0) return <RunPage report={id} run={run} />;
  if (report.error) return <Failed error={report.error} onRetry={() => report.refetch()} />;
  if (!report.data) return <Loading what="Opening the report" />;
  return <Editor key={id} report={report.data} onAgain={async () => (await report.refetch()).data as Report} />;
}

const SAID: Record<Saving, string> = {
  saved: "Saved",
  changed: "Not saved yet",
  saving: "Saving",
  conflict: "Not saved",
  failed: "Not saved",
};
const BY: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const EDGE: Record<string, Alignment> = {
  ArrowLeft: "left",
  ArrowRight: "right",
  ArrowUp: "top",
  ArrowDown: "bottom",
};

function Editor({ report, onAgain }: { report: Report; onAgain: () => Promise<Report> }) {
  const { brand, can } = useBrand();
  const say = useToast();
  const [params, setParams] = useSearchParams();
  const isEditable = can("reports.write");
  const edit = useEditing(brand.slug, report, isEditable);
  const { content } = edit;
  // The others are put in line with the one that was chosen first.
  const [chosen, setChosen] = useState<string[]>([]);
  // Whether several are being chosen by keyboard: going from one to the next then chooses nothing by itself.
  const [isCollecting, setCollecting] = useState(false);
  const [opened, setOpened] = useState<"add" | "share" | "versions" | null>(null);
  const copied = useRef<Item | null>(null);
  const pdf = useReportPdf(brand.slug, report.id);
  const asked = params.get("page");
  const page =
    content.pages.find((one) => one.id === asked) ??
    (asked === "cover" && content.look.has_cover ? null : content.pages[0]) ??
    null;
  const shown = useShown(brand.slug, report.id, edit.edition, page?.id ?? "");
  const own = shown.data?.pages.find((one) => one.id === page?.id);
  const words = shown.data?.words ?? {
    days: "",
    against: "",
    page: "page",
    before: "before",
    unknown: "",
    locale: "en-GB",
  };
  const item = page?.items.find((one) => one.id === chosen[0]) ?? null;
  const together = chosen.filter((id) => page?.items.some((one) => one.id === id));
  const picture = (asset: number) => assetOf(brand.slug, asset, "preview");
  const choose = (id: string, isMore: boolean) =>
    setChosen((now) => (!isMore ? [id] : now.includes(id) ? now.filter((one) => one !== id) : [...now, id]));
  const chooseNone = () => {
    setChosen([]);
    setCollecting(false);
  };
  const align = (how: Alignment) => {
    if (!page) return;
    const next = aligned(page, together, how);
    if (next) edit.change(withPage(content, page.id, () => next));
    else say("There they would lie over each other or leave the page.", "wrong");
  };
  const open = (next: string | null) => {
    chooseNone();
    setParams((now) => ({ ...Object.fromEntries(now), page: next ?? "cover" }), { replace: true });
  };
  const add = (made: Omit<Item, "x" | "y">) => {
    const next = added(content, page?.id ?? "", made);
    edit.change(next.content);
    open(next.page);
    setChosen([made.id]);
    if (next.page !== page?.id) say("The page was full: it stands on a new one.");
  };
  const takeOut = (one: Item) => {
    edit.change(withoutItem(content, one.id));
    setChosen([]);
  };
  const onKey = (event: KeyboardEvent, one: Item) => {
    if (!isEditable || !page) return;
    const by = BY[event.key];
    if (by && event.altKey) {
      event.preventDefault();
      align(EDGE[event.key] as Alignment);
    } else if (event.key === " ") {
      event.preventDefault();
      if (isCollecting) choose(one.id, true);
      else setCollecting(true);
    } else if (event.key === "Escape") {
      chooseNone();
    } else if (by) {
      event.preventDefault();
      const place = placed(page, one.id, event.shiftKey ? { w: by[0], h: by[1] } : { x: by[0], y: by[1] });
      if (place)
        edit.change(
          withItem(content, one.id, (now) => ({ ...now, ...place })),
          `place ${one.id}`,
        );
    } else if (event.key === "Delete" || event.key === "Backspace") takeOut(one);
    else if ((event.ctrlKey || event.metaKey) && event.key === "c") copied.current = one;
    else if ((event.ctrlKey || event.metaKey) && event.key === "d") {
      event.preventDefault();
      add({ ...one, id: newName() });
    }
  };
  const onShortcut = (event: KeyboardEvent) => {
    const typing = (event.target as HTMLElement).closest("input, textarea, select, [contenteditable=true]");
    if (typing || !(event.ctrlKey || event.metaKey)) return;
    const key = event.key.toLowerCase();
    if (key === "z") {
      event.preventDefault();
      event.shiftKey ? edit.redo() : edit.undo();
    } else if (key === "v" && copied.current) add({ ...copied.current, id: newName() });
  };
  const number = page ? content.pages.indexOf(page) + 1 + (content.look.has_cover ? 1 : 0) : 1;
  const count = content.pages.length + (content.look.has_cover ? 1 : 0);
  const saveAs = (form: string) => {
    if (form === "pdf") pdf.mutate(undefined, { onError: (error) => say(error.message, "wrong") });
    else location.assign(`/api/brands/${brand.slug}/reports/${report.id}/table?form=${form}`);
  };
  return (
    <>
      <MinuteLine hasBrush={false} />
      {/* biome-ignore lint/a11y/noStaticElementInteractions: shortcuts of what stands in it */}
      <div className="flex min-h-0 flex-1 flex-col" onKeyDown={onShortcut}>
        <div className="flex min-h-[38px] flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-5 py-1 narrow:px-3">
          <Link to={`/${brand.slug}/reports`} className="under hover:text-berry">
            Reports
          </Link>
          <h1 className="sr-only">{content.title}</h1>
          <input
            aria-label="Title of the report"
            className="h-7 min-w-0 flex-1 border border-transparent bg-transparent px-1 font-title text-[16px] font-semibold hover:border-rule focus:border-rule-strong"
            maxLength={120}
            disabled={!isEditable}
            value={content.title}
            onChange={(e) => edit.change({ ...content, title: e.target.value }, "title")}
          />
          <span className="label" role="status">
            {isEditable ? SAID[edit.saving] : "You may look"}
          </span>
          {isEditable && (
            <>
              <Button kind="quiet" disabled={!edit.canUndo} onClick={edit.undo}>
                Undo
              </Button>
              <Button kind="quiet" disabled={!edit.canRedo} onClick={edit.redo}>
                Redo
              </Button>
              <Button onClick={() => setOpened("add")}>Put something on the page</Button>
            </>
          )}
          <Button kind="quiet" onClick={() => setOpened("versions")}>
            Versions
          </Button>
          <Link to={`/${brand.slug}/reports/${report.id}/present`} className="under hover:text-berry">
            Present
          </Link>
          <Choice
            label="Save as a file"
            value=""
            options={[
              { value: "pdf", label: "Pages as PDF" },
              { value: "pptx", label: "Pages as slides (PPTX)" },
              { value: "xlsx", label: "Figures as XLSX" },
              { value: "zip", label: "Figures as CSV, in an archive" },
            ]}
            onChoose={saveAs}
          >
            {pdf.isPending ? printedText(pdf.page) : "Save"}
          </Choice>
          {can("reports.share") && (
            <Button kind="main" onClick={() => setOpened("share")}>
              Give it to others
            </Button>
          )}
        </div>
        {edit.said && (
          <div role="alert" className="flex flex-wrap items-center gap-3 border-b border-rule bg-wash px-5 py-1.5">
            <span>{edit.said}</span>
            {edit.saving === "conflict" ? (
              <>
                <Button onClick={async () => edit.take(await onAgain())}>Take theirs</Button>
                <Button onClick={async () => edit.keep(await onAgain())}>Keep mine</Button>
                <span className="label">Theirs stays among the versions; mine comes back by Undo.</span>
              </>
            ) : (
              <Button onClick={edit.again}>Try again</Button>
            )}
          </div>
        )}
        <div className="grid min-h-0 flex-1 grid-cols-[168px_minmax(0,1fr)_268px]">
          <section className="overflow-y-auto border-r border-rule px-3 py-2" aria-label="Pages of the report">
            <PageList
              content={content}
              open={page?.id ?? null}
              isEditable={isEditable}
              onOpen={open}
              onMove={(one, by) => edit.change(movedPage(content, one, by))}
              onCopy={(one) => {
                const next = copiedPage(content, one);
                edit.change(next.content);
                open(next.page);
              }}
              onTakeOut={(one) => {
                edit.change(withoutPage(content, one));
                open(content.pages.find((each) => each.id !== one)?.id ?? null);
              }}
              onAdd={() => {
                const made = emptyPage();
                const at = content.pages.findIndex((one) => one.id === page?.id) + 1;
                edit.change({ ...content, pages: content.pages.toSpliced(at || content.pages.length, 0, made) });
                open(made.id);
              }}
            />
          </section>
          <section className="min-w-0 overflow-auto bg-rule/40 p-4" aria-label="The page" tabIndex={-1}>
            {shown.error && <Failed error={shown.error} onRetry={() => shown.refetch()} />}
            <BasisProvider>
              <Scaled>
                {(scale) =>
                  page === null ? (
                    <CoverPage
                      title={content.title}
                      brand={brand.name}
                      days={words.days}
                      against={words.against ? `${words.before}: ${words.against}` : ""}
                      look={content.look}
                      logo={content.look.logo ? picture(content.look.logo) : null}
                    />
                  ) : (
                    <SheetPage
                      page={page}
                      number={number}
                      count={count}
                      look={content.look}
                      words={words}
                      title={
                        isEditable ? (
                          <input
                            aria-label="Title of the page"
                            placeholder="Title of the page"
                            maxLength={120}
                            className="h-9 w-full bg-transparent font-title font-semibold"
                            style={{ fontFamily: content.look.face === "sans" ? "var(--font-sans)" : undefined }}
                            value={page.title}
                            onChange={(e) =>
                              edit.change(
                                withPage(content, page.id, (one) => ({ ...one, title: e.target.value })),
                                `title ${page.id}`,
                              )
                            }
                          />
                        ) : (
                          <Title look={content.look}>{page.title}</Title>
                        )
                      }
                      text={
                        <PageWords
                          key={page.id}
                          page={page}
                          shown={own}
                          isEditable={isEditable}
                          numbers={numbersIn(words.locale)}
                          onChange={(next) =>
                            edit.change(withPage(content, page.id, (one) => ({ ...one, words: next })))
                          }
                        />
                      }
                    >
                      {page.items.length === 0 && (
                        <p style={{ color: "var(--sheet-muted)" }}>
                          Nothing stands on this page yet.
                          {isEditable &&
                            " Put something on it, or choose “Put into a report” beside any chart or table."}
                        </p>
                      )}
                      <GridPage
                        page={page}
                        shown={own}
                        words={words}
                        scale={scale}
                        chosen={chosen}
                        isEditable={isEditable}
                        picture={picture}
                        onChoose={(id, isMore) => {
                          setCollecting(false);
                          choose(id, isMore);
                        }}
                        onFocus={(id) => !isCollecting && choose(id, false)}
                        onPlace={(places) => {
                          const moved = places.some((p) => {
                            const now = page.items.find((one) => one.id === p.id);
                            return now && (now.x !== p.x || now.y !== p.y || now.w !== p.w || now.h !== p.h);
                          });
                          if (!moved) return;
                          edit.change(
                            withPage(content, page.id, (one) => ({
                              ...one,
                              items: one.items.map((each) => {
                                const { id: _, ...place } = places.find((p) => p.id === each.id) ?? { id: "" };
                                return { ...each, ...place };
                              }),
                            })),
                          );
                        }}
                        onKey={onKey}
                      />
                    </SheetPage>
                  )
                }
              </Scaled>
            </BasisProvider>
            {item && (
              <p className="label mt-2">
                Arrow keys move it, with Shift they size it; Ctrl D copies, Delete takes it out. Shift and a click, or
                Space on each, choose several; Alt and an arrow key put them in line.
              </p>
            )}
          </section>
          <section className="overflow-y-auto border-l border-rule px-4 py-3" aria-label="What is chosen">
            <fieldset disabled={!isEditable}>
              {page && (together.length > 1 || isCollecting) ? (
                <AlignPanel count={together.length} onAlign={align} onNone={chooseNone} />
              ) : item && page ? (
                <>
                  <button
                    type="button"
                    className="under label mb-2 min-h-6 hover:text-berry"
                    onClick={() => setChosen([])}
                  >
                    Page and report
                  </button>
                  <ItemPanel
                    key={item.id}
                    item={item}
                    shown={own?.items.find((one) => one.id === item.id)}
                    onChange={(next, step) =>
                      edit.change(
                        withItem(content, next.id, () => next),
                        step,
                      )
                    }
                    onCopy={() => pageOf(content, item.id) && add({ ...item, id: newName() })}
                    onTakeOut={() => takeOut(item)}
                  />
                </>
              ) : (
                <ReportPanel content={content} page={page} onChange={edit.change} />
              )}
            </fieldset>
          </section>
        </div>
      </div>
      <AddFigure isOpen={opened === "add"} onClose={() => setOpened(null)} onAdd={add} />
      {opened === "share" && <Sharing report={report.id} onClose={() => setOpened(null)} />}
      {opened === "versions" && (
        <VersionsSheet
          report={report.id}
          isEditable={isEditable}
          onClose={() => setOpened(null)}
          onBack={(back) => edit.take(back)}
        />
      )}
    </>
  );
}
