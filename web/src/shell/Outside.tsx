import type { ReactNode } from "react";

/** A page before one is inside: our mark, what it is about, and the one thing to do there. */
export function Outside({ title, children, says }: { title: string; says?: ReactNode; children: ReactNode }) {
  return (
    <main className="mx-auto flex min-h-screen max-w-md flex-col justify-center gap-5 px-4 py-6">
      <div>
        <svg width="48" height="40" viewBox="0 0 24 20" aria-hidden="true" className="mb-3">
          <path
            d="M1 18h22M4 18v-5M8.5 18V8.5M17.5 18v-4M21.5 18V7"
            stroke="var(--ink)"
            strokeWidth="1.5"
            fill="none"
          />
          <path d="M13 18V3" stroke="var(--berry)" strokeWidth="2.6" />
        </svg>
        <h1 className="mb-1 text-[26px] leading-8">{title}</h1>
        {says && <p className="text-muted">{says}</p>}
      </div>
      {children}
    </main>
  );
}
