import type { ReactNode } from 'react';

/** What a view shows when there is nothing: what it is for, and the first step. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="rounded-sm border border-dashed border-edge px-5 py-6 text-ink-2">
      <p className="mb-1 font-head text-[15px] font-semibold text-ink">{title}</p>
      {children}
    </div>
  );
}

export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="px-1 py-6 text-ink-2">
      Reading {what} …
    </p>
  );
}

/** What a list will look like while it is read: quiet lines in the place of its rows. */
export function Outline({ what, rows }: { what: string; rows: number }) {
  return (
    <div role="status">
      <span className="sr-only">Reading {what} …</span>
      {Array.from({ length: rows }, (_, k) => (
        <div key={k} aria-hidden="true" className="grid gap-1.5 border-t border-edge py-3">
          <div className="h-3.5 w-2/3 rounded-sm bg-edge/60" />
          <div className="h-3 w-2/5 rounded-sm bg-edge/40" />
        </div>
      ))}
    </div>
  );
}
