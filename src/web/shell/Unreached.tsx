import { counted } from '../../core/counted.ts';
import { useIsAway, useWaiting } from '../client/index.ts';

/** That the server cannot be reached, and what waits for it; in one place, whatever was done. */
export function Unreached() {
  const waiting = useWaiting();
  const isAway = useIsAway();
  if (waiting === 0 && !isAway) return null;
  return (
    <p role="status" className="no-print bg-glow-wash px-4 py-1.5 text-[13px] md:px-6">
      <b className="font-semibold">The server cannot be reached.</b>{' '}
      {waiting === 0
        ? 'What you see is as it was; what you do is sent once it is back.'
        : `${counted(waiting, 'change')} of yours ${waiting === 1 ? 'waits' : 'wait'} and ${waiting === 1 ? 'is' : 'are'} sent once it is back. Leave this window open.`}
    </p>
  );
}
