import type { Waited } from '../../contract/waiting.ts';
import { formatNear, formatSpan } from '../../core/time/format.ts';
import { useMe, useNow } from '../client/index.ts';
import { Button, PartHeading } from '../design/controls.tsx';
import { useSettle, useWaited } from './useWaiting.ts';

/** Places for which I wait, those held for me first; nothing while there is none. */
export function PlacesAwaited() {
  const { data } = useWaited();
  const waiting = data?.waiting ?? [];
  if (waiting.length === 0) return null;
  const held = waiting.filter((one) => one.offeredUntil !== null);
  return (
    <section aria-labelledby="places-awaited" className="mb-6">
      <PartHeading remark={held.length > 0 ? `${held.length} held for you` : undefined}>
        <span id="places-awaited">Places you wait for</span>
      </PartHeading>
      <ul>
        {[...held, ...waiting.filter((one) => one.offeredUntil === null)].map((one) => (
          <li key={one.id} className="grid gap-1.5 border-t border-edge py-2">
            <OneWaited waited={one} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A place that is held for me, with what I do about it; nothing where an event holds none so. */
export function HeldForMe({ eventId }: { eventId: string }) {
  const { data } = useWaited();
  const held = data?.waiting.find((one) => one.eventId === eventId && one.offeredUntil !== null);
  if (!held) return null;
  return (
    <section aria-label="Held for you" className="grid gap-1.5 rounded-sm border border-edge p-3">
      <OneWaited waited={held} />
      <p className="text-ink-2">Others see that it is taken.</p>
    </section>
  );
}

function OneWaited({ waited: one }: { waited: Waited }) {
  const me = useMe();
  const now = useNow();
  const settle = useSettle(one);
  const isHeld = one.offeredUntil !== null;
  return (
    <>
      <p>
        <b className="font-semibold">{one.place}</b>, {formatSpan(one, me.zone, me.clock)}
        {one.title && `, ${one.title}`}
        <span className={isHeld ? 'block font-semibold text-alpenglow' : 'block text-ink-2'}>
          {isHeld
            ? `is free again; held for you until ${formatNear(one.offeredUntil!, now, me)}`
            : `taken${one.before > 0 ? `; ${one.before} before you` : ''}${one.wants === 'given' ? '; yours once it is free' : ''}`}
        </span>
      </p>
      <p className="flex gap-1.5">
        {isHeld && (
          <Button look="act" disabled={settle.isPending} onClick={() => settle.mutate('take')}>
            Take {one.place}
          </Button>
        )}
        <Button disabled={settle.isPending} onClick={() => settle.mutate('leave')}>
          {isHeld ? 'Let it go' : 'Wait no more'}
        </Button>
      </p>
    </>
  );
}
