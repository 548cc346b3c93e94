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
