import { useCallback, useEffect, useRef, useState } from "react";
import { ProblemError } from "../../api/client";
import { useChanged } from "../../api/keys";
import { begin, type Content, changed, type History, redone, undone } from "./edit";
import { type Report, useReportActs } from "./queries";

const REST_MS = 900;
const noop = (): void => undefined;
export type Saving = "saved" | "changed" | "saving" | "conflict" | "failed";

export const contentOf = (report: Report): Content => ({
  title: report.title,
  label: report.label,
  language: report.language,
  study: report.study,
  look: report.look as Content["look"],
  pages: report.pages as Content["pages"],
});

/**
 * A report while somebody edits it: each change can be undone, all of it is saved as soon as one rests. What a colleague
 * saved in between is never overwritten without a word; what was changed here stays until it is decided.
 */
export function useEditing(brand: string, report: Report, isEditable: boolean) {
  const [history, setHistory] = useState<History>(() => begin(contentOf(report)));
  const [edition, setEdition] = useState(report.edition);
  const [saving, setSaving] = useState<Saving>("saved");
  const [said, setSaid] = useState("");
  const { save } = useReportActs(brand);
  const saveNow = save.mutateAsync;
  const others = useChanged(brand);
  const latest = useRef({ content: history.now, edition });
  latest.current = { content: history.now, edition };

  const send = useCallback(
    async (content: Content, of: number) => {
      setSaving("saving");
      try {
        const kept = await saveNow({ id: report.id, body: { ...content, edition: of } as never });
        setEdition(kept.edition);
        setSaid("");
        setSaving(latest.current.content === content ? "saved" : "changed");
        others("reports");
      } catch (error) {
        const problem = error as ProblemError;
        setSaid(problem.message);
        setSaving(problem instanceof ProblemError && problem.status === 409 ? "conflict" : "failed");
      }
    },
    [report.id, saveNow, others],
  );

  useEffect(() => {
    if (saving !== "changed" || !isEditable) return;
    const waiting = setTimeout(() => send(history.now, edition), REST_MS);
    return () => clearTimeout(waiting);
  }, [saving, history.now, edition, send, isEditable]);

  // Whoever goes to another page of ours before it is saved has it saved on the way.
  const leaving = useRef(noop);
  leaving.current = () => {
    if (!isEditable || saving !== "changed") return;
    saveNow({ id: report.id, body: { ...history.now, edition } as never }).then(() => others("reports"), noop);
  };
  useEffect(() => () => leaving.current(), []);

  // Whoever leaves before it is saved is asked first.
  useEffect(() => {
    if (saving === "saved") return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [saving]);

  const move = (next: (history: History) => History) => {
    if (!isEditable) return;
    setHistory((before) => {
      const after = next(before);
      if (after !== before) setSaving((now) => (now === "conflict" ? now : "changed"));
      return after;
    });
  };
  return {
    content: history.now,
    edition,
    saving,
    said,
    canUndo: history.past.length > 0,
    canRedo: history.future.length > 0,
    change: (next: Content | ((now: Content) => Content), step = "") =>
      move((h) => changed(h, typeof next === "function" ? next(h.now) : next, step)),
    undo: () => move(undone),
    redo: () => move(redone),
    /** Take what is on the server now; what was changed here can still be brought back by undoing. */
    take: (theirs: Report) => {
      setHistory((h) => ({ ...changed(h, contentOf(theirs)), step: "" }));
      setEdition(theirs.edition);
      setSaid("");
      setSaving("saved");
    },
    /** Keep what is here; what the colleague saved stays among the versions. */
    keep: (theirs: Report) => {
      setEdition(theirs.edition);
      send(history.now, theirs.edition);
    },
    again: () => setSaving("changed"),
  };
}

export type Editing = ReturnType<typeof useEditing>;
