import type { ReactNode } from 'react';
import { errorText } from '../app/api.ts';
import { Button } from './controls.tsx';

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

/** A failure in words, with a way to try again. */
export function Failure({ error, retry }: { error: unknown; retry?: () => void }) {
  return (
    <div role="alert" className="rounded-sm bg-glow-wash px-4 py-3">
      <p className="font-semibold">{errorText(error)}</p>
      {retry && (
        <Button look="quiet" onClick={retry}>
          Try again
        </Button>
      )}
    </div>
  );
}
