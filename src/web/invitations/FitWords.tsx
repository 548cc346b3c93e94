import type { WaitingInvitation } from '../../contract/invitations.ts';
import { formatHours } from '../../core/time/format.ts';
import { useMe } from '../client/index.ts';
import { datesFitWords } from './coverage.ts';

/** Whether what I am asked to suits me, in the same words wherever it can be answered. */
export function FitWords({
  invitation: { dates, conflicts, start },
}: {
  invitation: Pick<WaitingInvitation, 'dates' | 'conflicts' | 'start'>;
}) {
  const me = useMe();
  const fits = dates ? dates.fitting === dates.count : conflicts.length === 0;
  return (
    <span className={`block font-semibold ${fits ? 'text-lichen-ink' : 'text-alpenglow'}`}>
      {dates
        ? datesFitWords(dates, me.zone)
        : fits
          ? 'fits'
          : `collides with ${conflicts
              .map((other) => `${other.title}, ${formatHours(other, me.zone, me.clock, start)}`)
              .join('; ')}`}
    </span>
  );
}
