import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useLocation, useNavigate, useParams, useSearchParams } from 'react-router';
import type { EventDetail } from '../../contract/events.ts';
import { HOUR } from '../../core/time/interval.ts';
import { dateAt } from '../../core/time/wall.ts';
import { ApiProblem, Failure, useMe, useNow, usePreferences } from '../app/index.ts';
import { tellUser } from '../design/notices.ts';
import { Loading } from '../design/states.tsx';
import { AttachmentList, sendFile } from './Attachments.tsx';
import { ChangeForm } from './ChangeForm.tsx';
import { blankDraft, type Draft } from './draft.ts';
import { EventFacts } from './EventFacts.tsx';
import { EventForm } from './EventForm.tsx';
import { CancelButton, useEvent } from './EventPanel.tsx';
import { CategoriesProvider } from '../grid/index.ts';
import { useCategories } from '../preferences/index.ts';
import { useMakeEvent } from './NewEventPanel.tsx';

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
          <FullEvent key={query.data.version} event={query.data} />
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
          {change && <AttachmentList event={event} change />}
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

/** A new event with all its details; begun here, or taken over from the quick form. */
export function NewEventPage() {
  const me = useMe();
  const now = useNow();
  const { defaultReminders, defaultMinutes } = usePreferences();
  const navigate = useNavigate();
  const client = useQueryClient();
  const location = useLocation();
  const given = (location.state as { draft?: Draft } | null)?.draft;
  const [draft, setDraft] = useState<Draft>(() => {
    const start = Math.ceil(now / HOUR) * HOUR;
    const span = { start, end: start + defaultMinutes * 60_000, allDay: false };
    return given ?? blankDraft(span, me.zone, defaultReminders);
  });
  const [files, setFiles] = useState<File[]>([]);
  const make = useMakeEvent((id) => {
    void sendAll(id).then(() => navigate(`/calendar?date=${draft.typed.date}&event=${id}`));
  });
  const sendAll = async (id: string) => {
    for (const file of files) {
      try {
        await sendFile(id, file, () => undefined);
      } catch (error) {
        tellUser(
          `${file.name}: ${error instanceof ApiProblem ? error.message : 'could not be sent'}`,
        );
      }
    }
    await client.invalidateQueries({ queryKey: ['calendar'] });
  };
  return (
    <main className={FRAME}>
      <h1 className="mb-4 text-[26px]">New event</h1>
      <div className="max-w-2xl">
        <EventForm
          draft={draft}
          setDraft={setDraft}
          full
          action="Put it in my calendar"
          busy={make.isPending}
          error={make.error}
          save={(result) => make.mutate(result)}
        >
          <label className="block">
            <span className="mb-1 block font-semibold">Attachments</span>
            <input
              type="file"
              multiple
              onChange={(event) => setFiles([...(event.target.files ?? [])])}
            />
          </label>
        </EventForm>
      </div>
    </main>
  );
}
