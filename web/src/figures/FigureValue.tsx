import { createContext, lazy, type ReactNode, Suspense, useCallback, useContext, useState } from "react";
import type { Of } from "./queries";

// Fetched when a basis is opened for the first time.
const BasisSheet = lazy(() => import("./BasisSheet").then((found) => ({ default: found.BasisSheet })));
const Opening = createContext<(of: Of) => void>(() => undefined);

/** Whatever stands below it may open the basis of a figure: one sheet for all of them. */
export function BasisProvider({ children }: { children: ReactNode }) {
  const [of, setOf] = useState<Of | null>(null);
  const [hasOpened, setOpened] = useState(false);
  const open = useCallback((wanted: Of) => {
    setOpened(true);
    setOf(wanted);
  }, []);
  const onClose = useCallback(() => setOf(null), []);
  return (
    <Opening.Provider value={open}>
      {children}
      {hasOpened && (
        <Suspense>
          <BasisSheet of={of} onClose={onClose} />
        </Suspense>
      )}
    </Opening.Provider>
  );
}

type Props = Of & { label: string; children: ReactNode; className?: string };

/** A figure that opens its basis. label names it, for those who do not see where it stands. */
export function FigureValue({ kind, cell, params, label, children, className = "" }: Props) {
  const open = useContext(Opening);
  return (
    <button
      type="button"
      onClick={(event) => {
        // What it stands in may have a click of its own.
        event.stopPropagation();
        open({ kind, cell, params });
      }}
      aria-label={`Basis of ${label}`}
      className={`rounded-none decoration-dotted decoration-rule-strong underline-offset-4 hover:text-berry hover:underline focus-visible:underline ${className}`}
    >
      {children}
    </button>
  );
}
