import type { ReactNode } from "react";

/** Truncates a name or a text to one line with an ellipsis: where room is short it is cut between words, and its whole is told (wholes.ts). */
export function Cut({ children, className = "" }: { children: ReactNode; className?: string }) {
  return (
    <span className={`cut ${className}`}>
      <span>{children}</span>
    </span>
  );
}
