import { useState } from 'react';
import type { TakenDate } from '../../contract/eventDetail.ts';
import type { DateChoice } from '../../contract/eventParts.ts';
import { formatDay, formatNear, formatSpan } from '../../core/time/format.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { ApiProblem, useMe } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';

/** The dates of a series on which something is taken, if a refusal was about them. */
export const takenDatesIn = (error: unknown): TakenDate[] | null =>
  error instanceof ApiProblem && Array.isArray(error.body.dates) && error.body.dates.length > 0
    ? (error.body.dates as TakenDate[])
    : null;

interface Option {
  words: string;
  choices: DateChoice[];
}

/** For each date on which something is taken: leave it out, go without, another place, another time. */
export function TakenDates({
  dates,
  zone,
  busy,
  take,
}: {
  dates: readonly TakenDate[];
  /** The series' own zone. */
  zone: string;
  busy: boolean;
  take: (choices: DateChoice[]) => void;
}) {
  const me = useMe();
  const options = dates.map((date) => optionsFor(date, zone, me.zone, me.clock));
  const [chosen, setChosen] = useState<number[]>(() =>
    options.map((list) => (list.length > 2 ? 2 : 0)),
  );
  return (
    <div role="alert" className="grid gap-2 rounded-sm bg-glow-wash px-4 py-3">
      <p className="font-semibold">
        Taken on {dates.length === 1 ? 'one date' : `${dates.length} dates`}. What about{' '}
        {dates.length === 1 ? 'it' : 'each'}?
      </p>
      <ul className="grid gap-2">
        {dates.map((date, k) => (
          <li key={date.at} className="grid gap-0.5">
            <span>
              <b className="font-semibold">{formatDay(date.start, me.zone)}</b>:{' '}
              {date.taken
                .map(
                  (one) =>
                    `${one.name} is taken${one.holder ? ` by ${one.holder}` : ''} until ${formatNear(one.end, date.start, me)}`,
                )
                .join('; ')}
            </span>
            <Select
              question={`On ${formatDay(date.start, me.zone)}`}
              value={chosen[k]!}
              onChange={(n) => setChosen((before) => before.with(k, n))}
              options={options[k]!.map((option, n) => ({ value: n, words: option.words }))}
            />
          </li>
        ))}
      </ul>
      <Button
        look="act"
        disabled={busy}
        onClick={() => take(options.flatMap((list, k) => list[chosen[k]!]!.choices))}
      >
        Book it like this
      </Button>
    </div>
  );
}

function optionsFor(
  { at, taken, alternatives, start, end }: TakenDate,
  zone: string,
  myZone: string,
  clock: '24' | '12',
): Option[] {
  const ids = [...new Set(taken.map((one) => one.resourceId))];
  const names = [...new Set(taken.map((one) => one.name))].join(' and ');
  const ways = alternatives.map((way): Option => {
    if (way.kind === 'resource') {
      return {
        words: `${way.name} instead${way.seats ? `, ${way.seats} seats` : ''}`,
        choices: [
          { do: 'instead', at, resourceId: way.resourceId, instead: way.instead },
          ...ids
            .filter((id) => id !== way.instead)
            .map((resourceId) => ({ do: 'without' as const, at, resourceId })),
        ],
      };
    }
    return {
      words: `at ${formatSpan({ start: way.start, end: way.start + (end - start) }, myZone, clock)}`,
      choices: [
        {
          do: 'move',
          at,
          startsAt: wallTimeAt(way.start, zone),
          endsAt: wallTimeAt(way.start + (end - start), zone),
        },
      ],
    };
  });
  return [
    { words: 'Leave this date out', choices: [{ do: 'leave-out', at }] },
    {
      words: `Without ${names}`,
      choices: ids.map((resourceId) => ({ do: 'without', at, resourceId })),
    },
    ...ways,
  ];
}
