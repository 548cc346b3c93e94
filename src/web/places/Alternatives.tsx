import type { TakenResource, OfferedAlternative } from '../../contract/eventDetail.ts';
import { formatSpan, type ClockStyle } from '../../core/time/format.ts';
import { ApiProblem, useMe } from '../client/index.ts';
import type { Interval } from '../../core/time/interval.ts';
import { Button } from '../design/controls.tsx';
import { WaitForIt } from '../waiting/index.ts';

interface TakenBody {
  taken: TakenResource[];
  alternatives: OfferedAlternative[];
}

/** The refusal of a place that is taken, or null for any other error. */
export const takenIn = (error: unknown): TakenBody | null =>
  error instanceof ApiProblem && error.body.code === 'resource-taken'
    ? (error.body as unknown as TakenBody)
    : null;

/** What takes each place: the bookings of all its units go into one sentence. */
const byResource = (taken: readonly TakenResource[]): [TakenResource, ...TakenResource[]][] =>
  [...new Set(taken.map((one) => one.resourceId))].map(
    (id) => taken.filter((one) => one.resourceId === id) as [TakenResource, ...TakenResource[]],
  );

const takenWords = (one: TakenResource, { zone, clock }: { zone: string; clock: ClockStyle }) =>
  formatSpan(one, zone, clock) +
  (one.outOfUse ? `: ${one.outOfUse}` : one.title ? `: ${one.title}` : '') +
  (one.holder ? ` (${one.holder})` : '');

/** Who has the place, and the nearest ways out, each taken with one click. */
export function Alternatives({
  body,
  take,
  busy,
  wish,
  nothing = 'Nothing was booked.',
}: {
  body: TakenBody;
  take: (way: OfferedAlternative) => void;
  busy: boolean;
  /** What was wished for, where it can be waited for: one time, of one place. */
  wish?: Interval & { title: string };
  /** What became of what was asked for. */
  nothing?: string;
}) {
  const me = useMe();
  const [only] = new Set(body.taken.map((one) => one.resourceId));
  const waitFor = wish && body.taken.every((one) => one.resourceId === only) ? only : undefined;
  return (
    <div role="alert" className="rounded-sm bg-glow-wash px-4 py-3">
      {byResource(body.taken).map(([first, ...others]) => (
        <p key={first.resourceId} className="font-semibold">
          {first.name} is {first.outOfUse ? 'out of use' : 'taken'},{' '}
          {[first, ...others].map((one) => takenWords(one, me)).join('; ')}. {nothing}
        </p>
      ))}
      {body.alternatives.length > 0 && (
        <>
          <p className="mt-2 mb-1.5">What would do instead:</p>
          <div role="group" aria-label="What would do instead" className="grid gap-1.5">
            {body.alternatives.map((way) => (
              <Button
                key={JSON.stringify(way)}
                className="text-left"
                disabled={busy}
                onClick={() => take(way)}
              >
                {way.kind === 'resource'
                  ? `${way.name} at the same time${way.seats ? `, ${way.seats} seats` : ''}${way.floor ? `, floor ${way.floor}` : ''}`
                  : `${way.name} ${formatSpan(way, me.zone, me.clock)}`}
              </Button>
            ))}
          </div>
        </>
      )}
      <Holders taken={body.taken} />
      {wish && waitFor !== undefined && <WaitForIt placeId={waitFor} wish={wish} />}
    </div>
  );
}

/** Whoever has it can be asked for it, where it is shown who that is. */
function Holders({ taken }: { taken: readonly TakenResource[] }) {
  const me = useMe();
  const first = new Map(
    taken.flatMap((one) =>
      one.holder && one.holderEmail ? [[one.holderEmail, one] as const] : [],
    ),
  );
  if (first.size === 0) return null;
  return (
    <p className="mt-2 flex flex-wrap gap-x-4">
      {[...first].map(([email, one]) => (
        <a
          key={email}
          className="reach font-semibold text-gentian hover:underline"
          href={`mailto:${encodeURIComponent(email)}?subject=${encodeURIComponent(
            `${one.name}, ${formatSpan(one, me.zone, me.clock)}`,
          )}`}
        >
          Write to {one.holder}
        </a>
      ))}
    </p>
  );
}
