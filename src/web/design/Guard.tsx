import type { ReactNode } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { Button } from './controls.tsx';

/** A part of a page whose failing takes nothing else with it: the rest, and what was typed, stay. */
export function Guard({
  what,
  until,
  children,
}: {
  /** What failed, in the words of the page: `this view`. */
  what: string;
  /** When this changes it is tried anew. */
  until?: unknown;
  children: ReactNode;
}) {
  return (
    <ErrorBoundary
      resetKeys={[until]}
      fallbackRender={({ resetErrorBoundary }) => (
        <div role="alert" className="m-4 max-w-xl rounded-sm bg-glow-wash px-4 py-3">
          <p className="font-semibold">
            Something went wrong in {what}, which is not your doing. Everything else goes on, and
            what you typed is kept.
          </p>
          <Button look="quiet" onClick={resetErrorBoundary}>
            Try again
          </Button>
        </div>
      )}
    >
      {children}
    </ErrorBoundary>
  );
}
