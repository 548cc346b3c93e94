import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { dateAt } from '../../core/time/wall.ts';
import { Failure, useMe } from '../client/index.ts';
import { CameByMail } from '../invitations/index.ts';
import { CommentsOn } from '../comments/index.ts';
import { Loading } from '../design/states.tsx';
import { AttachmentList } from './Attachments.tsx';
import { ChangeForm } from './ChangeForm.tsx';
import { EventFacts } from './EventFacts.tsx';
import { CategoriesProvider } from '../grid/index.ts';
import { useCategories } from '../preferences/index.ts';
import { CancelButton, useEvent } from '../meetings/index.ts';

const FRAME = 'mx-auto w-full max-w-5xl px-4 py-5 md:px-6';

/** An event in full, with every detail that can be changed. */
export function EventPage() {
  const { id } = useParams();
  const [params] = useSearchParams();
  const query = useEvent(id!, params.get('occurrence'));
  const categories = useCategories();
  return (
    <main className={FRAME}>
      {query.isPending && <Loading what="the event" />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {query.data && (
        <CategoriesProvider categories={categories}>
          <FullEvent event={query.data} />
        </CategoriesProvider>
      )}
    </main>
  );
}

function FullEvent({ event }: { event: EventDetail }) {
  const me = useMe();
  const navigate = useNavigate();
  const calendar = `/calendar?date=${dateAt(event.start, me.zone)}`;
  const change = event.canChange && event.status === 'confirmed';
  return (
    <>
      <Link className="text-gentian underline" to={calendar}>
        Back to the calendar
      </Link>
      <h1 className="mt-2 mb-4 text-[26px]">{event.title}</h1>
      <div className={change ? 'grid gap-8 md:grid-cols-[1.4fr_1fr]' : 'max-w-2xl'}>
        {change && (
          <ChangeForm
            event={event}
            full
            onDone={(changed) => void navigate(`/calendar?date=${dateAt(changed.start, me.zone)}`)}
          />
        )}
        <div className="grid content-start gap-5">
          <EventFacts event={event.canChange ? { ...event, attachments: [] } : event} />
          {event.organizer.id === null && <CameByMail eventId={event.id} />}
          {change && <AttachmentList event={event} change />}
          <CommentsOn event={event} />
          {change && (
            <div>
              <CancelButton event={event} onDone={() => void navigate(calendar)} />
            </div>
          )}
        </div>
      </div>
    </>
  );
}
