import type { Interval } from '../../core/time/interval.ts';
import { useNow } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { useWait } from './useWaiting.ts';

/** Waits for what is taken: to be told, or to have it, when it comes free. */
export function WaitForIt({
  placeId,
  wish: { start, end, title },
}: {
  placeId: number;
  wish: Interval & { title: string };
}) {
  const now = useNow();
  const wait = useWait();
  if (start <= now) return null;
  if (wait.isSuccess)
    return <p className="mt-2 font-semibold">You wait for it. It stands on Today.</p>;
  const begin = (wants: 'told' | 'given') =>
    wait.mutate({ placeId, start, end, title: title.trim(), wants });
  return (
    <>
      <p className="mt-2 mb-1.5">Or when it comes free:</p>
      <p className="flex flex-wrap gap-1.5">
        <Button disabled={wait.isPending} onClick={() => begin('told')}>
          Hold it and tell me
        </Button>
        <Button disabled={wait.isPending} onClick={() => begin('given')}>
          Book it for me
        </Button>
      </p>
    </>
  );
}
