import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useForm } from "react-hook-form";
import { ProblemError } from "../../api/client";
import { FigureDrawing } from "../../figures/drawing/FigureDrawing";
import { numbersIn } from "../../lib/numbers";
import { Button } from "../../ui/Button";
import { Entry, Form } from "../../ui/Form";
import { Failed, Loading } from "../../ui/States";
import type { Look, Page } from "./edit";
import { type Opened, openReport } from "./queries";
import { ReadWords } from "./ReadWords";
import { Scaled } from "./Scaled";
import { coloursOf } from "./SheetPage";
import { ShownSheet, sheetsOf } from "./ShownReport";

const keyOf = () => location.hash.slice(1);

/** What a link opens to somebody without an account: the report, after its password where it has one. */
export function OpenedPage() {
  const form = useForm({ defaultValues: { password: "" } });
  const { password } = form.watch();
  const open = useMutation({ mutationFn: (given: string) => openReport(keyOf(), given) });
  const { mutate } = open;
  // Once: every opening is a visit.
  useEffect(() => mutate(""), [mutate]);
  const problem = open.error instanceof ProblemError ? open.error : null;
  if (open.data) return <Read opened={open.data} />;
  if (problem && (problem.status === 403 || problem.status === 429))
    return (
      <main className="mx-auto flex min-h-screen max-w-[420px] flex-col justify-center gap-3 p-5">
        <h1 className="text-[22px]">A report for you</h1>
        <Form
          form={form}
          error={null}
          className="flex flex-col gap-3"
          onSubmit={() => {
            mutate(password);
          }}
        >
          <Entry
            form={form}
            name="password"
            label="Its password"
            error={password || problem.status === 429 ? problem.message : undefined}
          >
            {(field) => <input {...field} type="password" autoComplete="current-password" />}
          </Entry>
          <span>
            <Button type="submit" kind="main" isBusy={open.isPending} disabled={!password}>
              Open it
            </Button>
          </span>
        </Form>
      </main>
    );
  if (problem?.status === 404 || problem?.status === 400)
    return (
      <main className="mx-auto flex min-h-screen max-w-[420px] flex-col justify-center gap-2 p-5">
        <h1 className="text-[22px]">This link opens nothing</h1>
        <p>It has ended, was taken back, or was cut short on its way. Ask whoever sent it for another.</p>
      </main>
    );
  if (open.error) return <Failed error={open.error} onRetry={() => mutate(password)} />;
  return <Loading what="Opening the report" />;
}

/** As on paper where there is room; on a small screen one figure under the other. */
function Read({ opened }: { opened: Opened }) {
  const [isNarrow, setNarrow] = useState(() => window.innerWidth < 700);
  useEffect(() => {
    const look = () => setNarrow(window.innerWidth < 700);
    window.addEventListener("resize", look);
    return () => window.removeEventListener("resize", look);
  }, []);
  useEffect(() => {
    document.title = opened.title;
    document.documentElement.lang = opened.language;
  }, [opened]);
  const look = opened.look as Look;
  const report = { title: opened.title, brand: opened.brand, look, pages: opened.pages as Page[], shown: opened.shown };
  const picture = (asset: number) => opened.pictures[String(asset)] ?? "";
  return (
    <main className="min-h-screen" style={coloursOf(look)}>
      {isNarrow ? (
        <Column report={report} />
      ) : (
        <div className="mx-auto flex max-w-[1180px] flex-col gap-5 p-4">
          {Array.from({ length: sheetsOf(report) }, (_, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: sheets stay in their order
            <div key={index} className="border" style={{ borderColor: "var(--sheet-rule)" }}>
              <Scaled>{() => <ShownSheet report={report} index={index} picture={picture} />}</Scaled>
            </div>
          ))}
        </div>
      )}
      <p className="mx-auto max-w-[1180px] p-4 text-[12px]" style={{ color: "var(--sheet-muted)" }}>
        {new Date(opened.as_of).toLocaleString(opened.shown.words.locale)}
      </p>
    </main>
  );
}

const WIDTH = () => Math.min(660, window.innerWidth - 32);

function Column({ report }: { report: Parameters<typeof ShownSheet>[0]["report"] }) {
  const words = report.shown?.words;
  if (!words) return null;
  return (
    <div className="px-4 py-5">
      <h1 className="text-[26px] leading-tight">{report.title}</h1>
      <p style={{ color: "var(--sheet-muted)" }}>
        {report.brand}, {words.days}
      </p>
      {report.pages.map((page) => {
        const shown = report.shown?.pages.find((one) => one.id === page.id);
        return (
          <section key={page.id} className="mt-6" aria-label={page.title || words.page}>
            {page.title && (
              <h2 className="mb-2 border-b-2 text-[20px]" style={{ borderColor: "var(--sheet-accent)" }}>
                {page.title}
              </h2>
            )}
            <ReadWords words={shown?.words ?? []} />
            {page.items.map((item) => {
              const own = shown?.items.find((one) => one.id === item.id);
              if (!own || item.kind === "picture") return null;
              if (item.kind === "text") return <ReadWords key={item.id} words={own.words} size={15} />;
              const height = item.drawing === "tiles" ? 108 : 260;
              return (
                <figure key={item.id} className="mt-4 overflow-x-auto">
                  {item.drawing !== "tiles" && (
                    <figcaption className="mb-1 text-[14px] font-semibold">{own.title}</figcaption>
                  )}
                  {own.error ? (
                    <p>{own.error}</p>
                  ) : item.drawing === "tiles" ? (
                    <List set={own} words={words} />
                  ) : (
                    <FigureDrawing
                      drawing={item.drawing}
                      set={own}
                      numbers={numbersIn(words.locale)}
                      words={words}
                      rows={item.rows}
                      width={WIDTH()}
                      height={height}
                      shown={(_, text) => text}
                    />
                  )}
                </figure>
              );
            })}
          </section>
        );
      })}
    </div>
  );
}

/** Single figures one under the other. */
function List({
  set,
  words,
}: {
  set: Opened["shown"]["pages"][number]["items"][number];
  words: Opened["shown"]["words"];
}) {
  return (
    <FigureDrawing
      drawing="table"
      set={{ ...set, cells: set.cells.filter((cell) => cell.row === "") }}
      numbers={numbersIn(words.locale)}
      words={words}
      rows={12}
      width={WIDTH()}
      height={24 * Math.max(1, set.cells.length) + 8}
      shown={(_, text) => text}
    />
  );
}
