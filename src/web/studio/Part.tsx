import type { ReactNode } from 'react';
import { PartHeading } from '../design/controls.tsx';

/** A part of the kit with its states beside one another. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <PartHeading>{title}</PartHeading>
      <div className="flex flex-wrap items-start gap-4">{children}</div>
    </section>
  );
}
