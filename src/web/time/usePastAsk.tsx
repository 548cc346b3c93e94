import { useState, type ReactNode } from 'react';
import { formatSpan } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import { useMe, useNow } from '../client/index.ts';
import { SureDialog } from '../design/SureDialog.tsx';

/** That a time is over, or has begun already; null where it is still to come. */
export const pastWords = ({ start, end }: Interval, now: number): string | null =>
  start >= now ? null : end <= now ? 'This time is over' : 'This time has begun already';

/**
 * Asks before something is sent or booked for a time that is over.
 * @returns a way to do it, asking first where the time has begun already, and the question to be drawn
 */
export function usePastAsk(): [(span: Interval, act: () => void) => void, ReactNode] {
  const me = useMe();
  const now = useNow();
  const [asked, setAsked] = useState<{ span: Interval; act: () => void } | null>(null);
  const ask = (span: Interval, act: () => void) =>
    pastWords(span, now) ? setAsked({ span, act }) : act();
  const question = asked && (
    <SureDialog
      title={pastWords(asked.span, now) ?? ''}
      words={`${formatSpan(asked.span, me.zone, me.clock)} is ${asked.span.end <= now ? 'past' : 'under way'}.`}
      verb="Do it all the same"
      onSure={asked.act}
      onClose={() => setAsked(null)}
    />
  );
  return [ask, question];
}
