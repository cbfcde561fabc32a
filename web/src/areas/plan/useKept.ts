import { useEffect, useRef, useState } from "react";
import { useKeepWriting, useLeaveWriting, useWriting } from "./queries";
import type { Draft } from "./rules";

const AFTER_MS = 3_000;
const THERE_MS = 20_000;

/** What is being written, kept on the server too, for this person alone; and who else has the post open. */
export function useKept(
  brand: string,
  planned: number | undefined,
  draft: Draft,
  isTouched: boolean,
  isWriter: boolean,
) {
  const told = useWriting(brand, planned, isWriter);
  const { mutate: keep } = useKeepWriting(brand, planned);
  const leave = useLeaveWriting(brand, planned);
  const last = useRef<Draft | null>(null);
  // What the server has taken: only that is said to be there.
  const [taken, setTaken] = useState<Draft | null>(null);
  useEffect(() => {
    if (!isTouched || !isWriter || draft === last.current) return;
    const timer = setTimeout(() => {
      last.current = draft;
      keep(draft, {
        onSuccess: () => setTaken(draft),
        onError: () => {
          last.current = null;
        },
      });
    }, AFTER_MS);
    return () => clearTimeout(timer);
  }, [draft, isTouched, isWriter, keep]);
  useEffect(() => {
    // Whoever only reads a planned post says that they are there, too.
    if (!isWriter || planned === undefined) return;
    keep(null);
    const timer = setInterval(() => document.visibilityState === "visible" && keep(null), THERE_MS);
    return () => clearInterval(timer);
  }, [isWriter, planned, keep]);
  const content = told.data?.content as Draft | null | undefined;
  const isDraft = content !== null && content !== undefined && Array.isArray(content.profiles);
  return {
    others: told.data?.others ?? [],
    isKept: taken === draft,
    content: isDraft && told.data?.at ? { draft: content, at: told.data.at } : null,
    leave: () => leave.mutate(),
  };
}
