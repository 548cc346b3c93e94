import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SiteDetail } from '../../contract/administration.ts';
import { counted } from '../../core/counted.ts';
import { formatHours } from '../../core/time/format.ts';
import { addDays, dateAt, isDate, startOfDay } from '../../core/time/wall.ts';
import {
  answerTo,
  callApi,
  errorText,
  Failure,
  may,
  offerUndo,
  takeChangesBack,
  useChanged,
  useMe,
  useNow,
  useShown,
} from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { DayField } from '../time/index.ts';

/** How many of the bookings are listed. */
const LISTED = 8;

/** Closes a site with all its places for some days: what is booked there is shown first. */
export function SiteClosing({ site, onClosed }: { site: SiteDetail; onClosed: () => void }) {
  const me = useMe();
  const now = useNow();
  const changed = useChanged();
  const today = dateAt(now, site.zone);
  const [first, setFirst] = useState(addDays(today, 1));
  const [last, setLast] = useState(first);
  const [reason, setReason] = useState('');
  const isRead = isDate(first) && isDate(last) && first <= last && first >= today;
  const span = isRead
    ? {
        start: Math.max(now, startOfDay(first, site.zone)),
        end: startOfDay(addDays(last, 1), site.zone),
      }
    : null;
  useShown(['resource:all']);
  const preview = useQuery({
    ...answerTo('GET /api/sites/:id/closure/preview', {
      params: { id: site.id },
      query: span ?? { start: 0, end: 1 },
    }),
    enabled: span !== null,
  });
  const close = useMutation({
    mutationFn: () =>
      callApi('POST /api/sites/:id/closure', {
        params: { id: site.id },
        body: { ...span!, reason, seen: preview.data!.total },
      }),
    onSuccess: async ({ places, without, changes }) => {
      const refresh = () => changed('resource');
      await refresh();
      offerUndo(
        `${site.name} is closed: ${counted(places, 'place')}${without > 0 ? `, ${counted(without, 'booking')} without one` : ''}.`,
        () => takeChangesBack(changes).then(refresh),
        changes,
      );
      onClosed();
    },
  });
  const found = preview.data;
  return (
    <form
      noValidate
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (span && found && reason.trim()) close.mutate();
      }}
    >
      <p className="text-ink-2">
        None of its places can be booked then. People work as usual, unless the days are holidays,
        too.
      </p>
      <div className="flex gap-3">
        <DayField
          label="From"
          value={first}
          onChange={(day) => {
            setFirst(day);
            if (last < day) setLast(day);
          }}
        />
        <DayField
          label="Last day"
          error={isRead || !isDate(last) ? undefined : 'Must be no earlier than the first day.'}
          value={last}
          onChange={setLast}
        />
      </div>
      <Field label="Why" hint="Whoever has booked something there reads it.">
        <TextInput
          maxLength={200}
          value={reason}
          placeholder="The house is painted"
          onChange={(event) => setReason(event.target.value)}
        />
      </Field>
      {preview.isError && <Failure error={preview.error} retry={() => void preview.refetch()} />}
      {found && (
        <section aria-label="What is booked there then" className="grid gap-1">
          <p>
            <b className="font-semibold">
              {found.total === 0
                ? 'Nothing is booked there then.'
                : `${counted(found.total, 'booking')} would be without a place:`}
            </b>
          </p>
          <ul className="grid gap-1">
            {found.bookings.slice(0, LISTED).map((one) => (
              <li key={`${one.eventId} ${one.occurrence} ${one.place}`} className="text-ink-2">
                {one.place}, {formatHours(one, site.zone, me.clock)}: {one.title ?? 'private'},{' '}
                {one.holder}
              </li>
            ))}
          </ul>
          {found.total > LISTED && <p className="text-ink-2">and {found.total - LISTED} more</p>}
        </section>
      )}
      {close.isError && (
        <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
          {errorText(close.error)}
        </p>
      )}
      <Button
        look="act"
        type="submit"
        disabled={!found || !reason.trim() || close.isPending || !may(me, 'look-after')}
      >
        {found ? `Close its ${counted(found.places, 'place')}` : 'Close it'}
      </Button>
    </form>
  );
}
