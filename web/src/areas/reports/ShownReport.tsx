import { BasisProvider } from "../../figures/FigureValue";
import { CoverPage } from "./CoverPage";
import type { Look, Page } from "./edit";
import { box } from "./geometry";
import { ItemBox } from "./ItemBox";
import type { Shown } from "./queries";
import { ReadWords } from "./ReadWords";
import { SheetPage } from "./SheetPage";

export type Seen = { title: string; brand: string; look: Look; pages: Page[]; shown?: Shown };
type Props = { report: Seen; index: number; isOpen?: boolean; picture?: (asset: number) => string };

/** How many sheets a report has, its cover with them. */
export const sheetsOf = (report: Pick<Seen, "look" | "pages">) => report.pages.length + (report.look.has_cover ? 1 : 0);

/** One sheet of a report as everybody sees it: the cover, or a page. */
export function ShownSheet({ report, index, isOpen = false, picture }: Props) {
  const words = report.shown?.words;
  const offset = report.look.has_cover ? 1 : 0;
  if (offset && index === 0)
    return (
      <CoverPage
        title={report.title}
        brand={report.brand}
        days={words?.days ?? ""}
        against={words?.against ? `${words.before}: ${words.against}` : ""}
        look={report.look}
        logo={report.look.logo && picture ? picture(report.look.logo) : null}
      />
    );
  const page = report.pages[index - offset];
  if (!page) return null;
  const shown = report.shown?.pages.find((one) => one.id === page.id);
  return (
    <BasisProvider>
      <SheetPage
        page={page}
        number={index + 1}
        count={sheetsOf(report)}
        look={report.look}
        words={words}
        text={<ReadWords words={shown?.words ?? []} />}
      >
        {page.items.map((item) => {
          const at = box(item, page.has_words);
          return (
            <div key={item.id} className="absolute" style={at}>
              {words && (
                <ItemBox
                  item={item}
                  shown={shown?.items.find((one) => one.id === item.id)}
                  words={words}
                  width={at.width}
                  height={at.height}
                  isOpen={isOpen}
                  picture={picture}
                />
              )}
            </div>
          );
        })}
      </SheetPage>
    </BasisProvider>
  );
}
