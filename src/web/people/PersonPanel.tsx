import { useMutation } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import type { Person } from '../../contract/people.ts';
import { openWords } from '../../core/booking/ruleWords.ts';
import { formatDay, formatHours, formatTime } from '../../core/time/format.ts';
import { gaps, MINUTE, type Interval } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay } from '../../core/time/wall.ts';
import { workingIntervals } from '../../core/time/workingHours.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import { callApi, errorText, useChanged, useMe, useNow } from '../client/index.ts';
import { Button, PartHeading } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Panel } from '../design/Panel.tsx';
import { Loading } from '../design/states.tsx';
import { planPath, required } from '../lineUp/index.ts';

/** So many of their working days are told. */
const DAYS_TOLD = 3;
/** Free time that is shorter is none to meet in. */
const SHORTEST_FREE = 15 * MINUTE;

/** Somebody: where and when they work, when they are free next, and what one can do with them. */
export function PersonPanel({
  person,
  busy,
  onClose,
}: {
  person: Person;
  /** What is taken of their time in the days to come; null while that is read. */
  busy: readonly Interval[] | 'unshared' | null;
  onClose: () => void;
}) {
  const me = useMe();
  const now = useNow();
  const beside = useLayOver(person);
  const zone = me.zoneNames[person.zone] ?? person.zone;
  const isElsewhere = person.zone !== me.zone;
  return (
    <Panel open onClose={onClose} title={person.name}>
      <div className="grid gap-4">
        <p>
          {[person.jobTitle, ...person.teams].filter(Boolean).join(', ')}
          <span className="block text-ink-2">
            {[person.site, person.isPartner ? person.organization : null]
              .filter(Boolean)
              .join(', ')}
          </span>
          <span className="block text-ink-2">
            {formatTime(now, person.zone, me.clock)} in {zone}
            {person.hours.some((shifts) => shifts.length > 0) &&
              `; works ${openWords(person.hours, me.clock)}${isElsewhere ? ' there' : ''}`}
          </span>
        </p>
        <section aria-label="When they are free">
          <PartHeading remark={isElsewhere ? 'on your clock' : undefined}>
            Free in working hours
          </PartHeading>
          {busy === null ? (
            <Loading what="their time" />
          ) : busy === 'unshared' ? (
            <p className="text-ink-2">Their time is not shared with you.</p>
          ) : (
            <ul>
              {freeDays(person, busy, now).map(({ date, free }) => (
                <li key={date} className="grid grid-cols-[6rem_1fr] border-t border-edge py-1">
                  <span className="text-ink-2">
                    {formatDay(Date.parse(`${date}T12:00Z`), 'UTC')}
                  </span>
                  <span>
                    {free.map((one) => formatHours(one, me.zone, me.clock, now)).join(', ') ||
                      'not any more'}
                  </span>
                </li>
              ))}
            </ul>
          )}
        </section>
        {person.id !== me.id && (
          <p className="flex flex-wrap items-center gap-2">
            <Link
              to={planPath({ lineUp: [me.id, person.id].map(required) })}
              className="rounded-sm bg-gentian px-4 py-2 font-semibold text-on-gentian hover:brightness-110"
            >
              Plan with {person.name.split(' ')[0]}
            </Link>
            <Button disabled={beside.isPending} onClick={() => beside.mutate()}>
              Lay their calendar over mine
            </Button>
            <a
              href={`mailto:${encodeURIComponent(person.email)}`}
              className="reach px-2 font-semibold text-gentian hover:underline"
            >
              Write to them
            </a>
          </p>
        )}
      </div>
    </Panel>
  );
}

/** Puts somebody's calendar over one's own, and goes there. */
function useLayOver(person: Person) {
  const changed = useChanged();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: () => callApi('POST /api/calendar/layers', { body: { subjectId: person.id } }),
    onSuccess: async () => {
      await changed('calendar');
      void navigate('/calendar');
    },
    onError: (error) => tellUser(errorText(error)),
  });
}

/** What of their next working days is free from now on, on their own clock's dates. */
function freeDays({ zone, hours }: Person, busy: readonly Interval[], now: number) {
  const days: { date: string; free: Interval[] }[] = [];
  const today = dateAt(now, zone);
  for (let k = 0; k < 7 && days.length < DAYS_TOLD; k++) {
    const date = addDays(today, k);
    const day = { start: startOfDay(date, zone), end: startOfDay(addDays(date, 1), zone) };
    const working = workingIntervals(hours, zoneTable(zone, day), day);
    if (working.length === 0) continue;
    const free = working
      .flatMap((shift) => gaps(busy, { start: Math.max(shift.start, now), end: shift.end }))
      .filter((one) => one.end - one.start >= SHORTEST_FREE);
    days.push({ date, free });
  }
  return days;
}
