import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useBrand } from "../../study/brand";
import { Failed, Loading } from "../../ui/States";
import { contentOf as assetOf } from "../media";
import { useReport, useShown } from "./queries";
import { Scaled } from "./Scaled";
import { ShownSheet, sheetsOf } from "./ShownReport";
import { contentOf } from "./useEditing";

const FORWARD = ["ArrowRight", "ArrowDown", "PageDown", " ", "Enter"];
const BACK = ["ArrowLeft", "ArrowUp", "PageUp", "Backspace"];

/** A report on the whole screen, a sheet at a time: arrows turn, N shows the notes, F fills the screen, Escape ends it. */
export function PresentPage() {
  const { brand } = useBrand();
  const id = Number(useParams().report);
  const report = useReport(brand.slug, id);
  const shown = useShown(brand.slug, id, report.data?.edition);
  const [at, setAt] = useState(0);
  const [hasNotes, setNotes] = useState(false);
  const navigate = useNavigate();
  const count = report.data ? sheetsOf(contentOf(report.data)) : 1;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.target as HTMLElement).closest("[role=dialog]")) return;
      if (FORWARD.includes(event.key)) setAt((now) => Math.min(count - 1, now + 1));
      else if (BACK.includes(event.key)) setAt((now) => Math.max(0, now - 1));
      else if (event.key === "Home") setAt(0);
      else if (event.key === "End") setAt(count - 1);
      else if (event.key === "n") setNotes((now) => !now);
      else if (event.key === "f") document.documentElement.requestFullscreen?.().catch(() => undefined);
      else if (event.key === "Escape" && !document.fullscreenElement) navigate(`/${brand.slug}/reports/${id}`);
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [count, brand.slug, id, navigate]);
  const error = report.error ?? shown.error;
  if (error) return <Failed error={error} onRetry={() => report.refetch()} />;
  if (!report.data || !shown.data) return <Loading what="Setting the pages" />;
  const content = contentOf(report.data);
  const notes = content.pages[at - (content.look.has_cover ? 1 : 0)]?.notes ?? "";
  const turn = "min-h-6 px-2 underline underline-offset-4 disabled:opacity-40";
  return (
    <div className="fixed inset-0 z-30 flex flex-col bg-shell text-shell-ink">
      <div className="min-h-0 flex-1 p-3">
        <Scaled byHeight most={3}>
          {() => (
            <ShownSheet
              report={{ ...content, brand: brand.name, shown: shown.data }}
              index={at}
              picture={(asset) => assetOf(brand.slug, asset, "full")}
              isOpen
            />
          )}
        </Scaled>
      </div>
      {hasNotes && (
        <aside aria-label="Notes" className="max-h-[24vh] overflow-y-auto border-t border-rule px-6 py-2 text-[16px]">
          {notes || "No notes for this page."}
        </aside>
      )}
      <nav aria-label="Sheets" className="flex items-center gap-2 px-4 pb-2 text-[13px]">
        <button type="button" className={turn} disabled={at === 0} onClick={() => setAt(at - 1)}>
          Back
        </button>
        <span aria-live="polite" className="whitespace-nowrap">
          {at + 1} of {count}
        </span>
        <button type="button" className={turn} disabled={at === count - 1} onClick={() => setAt(at + 1)}>
          On
        </button>
        <span className="flex-1 text-shell-muted narrow:invisible narrow:h-0">
          Arrows turn · N notes · F whole screen · Esc ends
        </span>
        <button type="button" className={turn} aria-pressed={hasNotes} onClick={() => setNotes(!hasNotes)}>
          Notes
        </button>
        <button type="button" className={turn} onClick={() => navigate(`/${brand.slug}/reports/${id}`)}>
          End
        </button>
      </nav>
    </div>
  );
}
