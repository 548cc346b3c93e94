import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { counted } from '../../core/counted.ts';
import { START_STEPS } from '../../core/people/firstHour.ts';
import { answerTo, may, useMe } from '../client/index.ts';

/** For administrators, while something of the first hour is left: what, and the way there. */
export function FirstHour() {
  const me = useMe();
  const { data } = useQuery({
    ...answerTo('GET /api/administration/organization'),
    enabled: may(me, 'administer'),
  });
  const left = data ? START_STEPS.length - data.done.length : 0;
  if (left === 0) return null;
  return (
    <p className="mb-4 flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1 rounded-sm border border-dashed border-ink-2 px-3 py-2">
      <span>
        <b>{counted(left, 'step')} of the first hour left</b>
        {data!.mail.triedAt === null && ' Nobody is written to before mail has been tried.'}
      </span>
      <Link className="font-semibold text-gentian hover:underline" to="/administration/start">
        Go on with it
      </Link>
    </p>
  );
}
