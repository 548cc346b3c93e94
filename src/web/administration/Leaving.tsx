import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { StaffMember } from '../../contract/administration.ts';
import type { Fate, HeldEvent, Holdings, LeaveRequest, Successor } from '../../contract/leaving.ts';
import { counted } from '../../core/counted.ts';
import { listNames } from '../../core/planner/words.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import {
  answerTo,
  callApi,
  errorText,
  Failure,
  offerUndo,
  takeChangesBack,
  undoable,
  useChanged,
  useMe,
  useShown,
} from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { Outline } from '../design/states.tsx';
import { Tick } from '../design/ticks.tsx';
import { FindField } from '../find/index.ts';

/** Somebody, or a team, who has things from then on. */
type Heir = Successor & { name: string };
/** What becomes of something; null while nothing is said. */
type Choice = Heir | 'end' | null;

const MOST_NAMES = 4;
const fateOf = (choice: Heir | 'end'): Fate =>
  choice === 'end'
    ? { end: true }
    : { to: 'personId' in choice ? { personId: choice.personId } : { teamId: choice.teamId } };

/** What becomes of all that somebody has to come, before they leave. */
export function Leaving({ person, onDone }: { person: StaffMember; onDone: () => void }) {
  const [meetings, setMeetings] = useState<Choice>(null);
  const [bookings, setBookings] = useState<Choice>('end');
  const [desks, setDesks] = useState(false);
  const [except, setExcept] = useState<ReadonlyMap<string, Heir | 'end'>>(new Map());
  const [isListed, setListed] = useState(false);
  const heir = meetings !== null && meetings !== 'end' ? meetings : null;
  useShown(['directory:all']);
  const query = useQuery({
    ...answerTo('GET /api/administration/people/:id/holdings', {
      params: { id: person.id },
      query:
        heir === null ? {} : 'personId' in heir ? { person: heir.personId } : { team: heir.teamId },
    }),
    placeholderData: keepPreviousData,
  });
  const changed = useChanged();
  const refresh = () => changed('directory', 'person', 'meeting', 'calendar', 'resource');
  const act = useMutation({
    mutationFn: (body: LeaveRequest) =>
      undoable(
        callApi('POST /api/administration/people/:id/leave', { params: { id: person.id }, body }),
      ),
    onSuccess: ({ change, handedOver, ended, letters }) => {
      const words = [
        handedOver > 0 && `${handedOver} handed over`,
        ended > 0 && `${ended} ended`,
        letters > 0 && `${counted(letters, 'letter')} written`,
      ].filter(Boolean);
      offerUndo(
        `${person.name} has left${words.length > 0 ? `: ${words.join(', ')}` : ''}.`,
        () => takeChangesBack([change]).then(refresh),
        [change],
      );
      onDone();
    },
    onSettled: refresh,
  });
  if (query.isPending) return <Outline what={`what ${person.name} has`} rows={6} />;
  if (query.isError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  const held = query.data;
  const isAnswered = held.meetings.length === 0 || meetings !== null;
  const busy = held.meetings.filter((one) => !except.has(one.id) && one.to && !one.to.free);
  const closed = held.meetings.filter((one) => heir && !except.has(one.id) && !one.to);
  const personHeir = heir && 'personId' in heir ? heir : null;
  return (
    <section aria-labelledby="leaving" className="grid gap-4">
      <h3 id="leaving" className="text-[15px]">
        What becomes of what {person.name} has?
      </h3>
      {held.meetings.length > 0 && (
        <div className="grid gap-2">
          <p>
            <b>{counted(held.meetings.length, 'meeting')}</b> to come:{' '}
            {meetings === null ? (
              'say whose they are then.'
            ) : (
              <>
                <Button look="quiet" onClick={() => setMeetings(null)}>
                  {meetings === 'end' ? 'do not take place' : `go to ${meetings.name}`}
                </Button>
              </>
            )}
          </p>
          {meetings === null && (
            <div className="grid gap-2">
              <FindField
                label="Hand over to a person or a team"
                kinds={['person', 'team']}
                onFound={(one) =>
                  setMeetings(
                    one.kind === 'team'
                      ? { teamId: one.id, name: one.name }
                      : { personId: one.id, name: one.name },
                  )
                }
              />
              <Button
                look="quiet"
                className="-ml-3 justify-self-start"
                onClick={() => setMeetings('end')}
              >
                They do not take place
              </Button>
            </div>
          )}
          {heir && !query.isPlaceholderData && (
            <p className={busy.length > 0 ? 'text-glow-ink' : 'text-ink-2'}>
              {busy.length === 0
                ? `${heir.name} ${'teamId' in heir ? 'have time for all of them' : 'is free for all of them'}.`
                : `${'teamId' in heir ? 'Somebody is' : `${heir.name} is`} free for ${held.meetings.length - busy.length} of ${held.meetings.length}.`}
            </p>
          )}
          {heir && !query.isPlaceholderData && closed.length > 0 && (
            <p className="text-glow-ink">
              {counted(closed.length, 'private meeting')} {closed.length === 1 ? 'is' : 'are'} shown
              to nobody by this: {closed.length === 1 ? 'it does' : 'they do'} not take place.
            </p>
          )}
          <Button
            look="quiet"
            className="-ml-3 justify-self-start"
            aria-expanded={isListed}
            onClick={() => setListed(!isListed)}
          >
            {isListed ? 'Hide them' : 'See them one by one'}
          </Button>
          {isListed && (
            <HeldList
              events={held.meetings}
              usual={meetings}
              except={except}
              onExcept={(id, choice) => {
                const after = new Map(except);
                if (choice === null) after.delete(id);
                else after.set(id, choice);
                setExcept(after);
              }}
            />
          )}
        </div>
      )}
      {held.bookings.length > 0 && (
        <p>
          <b>{counted(held.bookings.length, 'booking')}</b> of places:{' '}
          <Select<'end' | 'heir'>
            look="word"
            question="What becomes of the bookings"
            value={bookings === 'end' ? 'end' : 'heir'}
            options={[
              { value: 'end', words: 'given back' },
              ...(heir ? [{ value: 'heir' as const, words: `go to ${heir.name}` }] : []),
            ]}
            onChange={(value) => setBookings(value === 'heir' ? heir : 'end')}
          />
        </p>
      )}
      {held.desks.length > 0 && (
        <div>
          <p>
            <b>{namesIn(held.desks)}</b> {held.desks.length === 1 ? 'is' : 'are'} given back.
          </p>
          {personHeir && (
            <Tick label={`They go to ${personHeir.name}`} on={desks} onChange={setDesks} />
          )}
        </div>
      )}
      <Rest held={held} name={person.name} />
      {act.isError && (
        <p role="alert" className="rounded-sm bg-glow-wash px-3 py-2 font-semibold">
          {errorText(act.error)}
        </p>
      )}
      <div className="grid gap-1">
        <Button
          look="danger"
          disabled={!isAnswered || act.isPending || query.isPlaceholderData}
          onClick={() =>
            act.mutate({
              version: held.person.version,
              seen: { meetings: held.meetings.length, bookings: held.bookings.length },
              meetings: fateOf(meetings ?? 'end'),
              bookings: fateOf(bookings ?? 'end'),
              except: [...except].map(([id, choice]) => ({ id, fate: fateOf(choice) })),
              desksTo: desks && personHeir ? personHeir.personId : null,
            })
          }
        >
          {act.isPending ? 'Handing over…' : `Let ${person.name} leave`}
        </Button>
        <p className="text-ink-2">
          Each colleague it concerns has one letter. It can be taken back for 30 days; what is over
          stays as it was.
        </p>
      </div>
    </section>
  );
}

const namesIn = (some: readonly { name: string }[]) =>
  listNames(
    some.map(({ name }) => name),
    MOST_NAMES,
  );

/** What follows by itself. */
function Rest({ held, name }: { held: Holdings; name: string }) {
  const lines = [
    held.invitations > 0 && `Taken out of ${counted(held.invitations, 'meeting')} of others.`,
    held.own > 0 &&
      `${counted(held.own, 'entry', 'entries')} of their own time end${held.own === 1 ? 's' : ''}.`,
    held.waiting > 0 && `Waits for ${counted(held.waiting, 'place')} no more.`,
    held.actsFor.length > 0 && `Acts no more for ${namesIn(held.actsFor)}.`,
    held.actedForBy.length > 0 && `${namesIn(held.actedForBy)} act no more for ${name}.`,
    held.leads.length > 0 && `Nobody leads ${namesIn(held.leads)} then.`,
    held.teams > 0 && `Out of ${counted(held.teams, 'team')}.`,
    held.sessions > 0 &&
      `Signed out everywhere, this minute (${counted(held.sessions, 'device')}).`,
  ].filter((line) => line !== false);
  return (
    <ul className="list-disc pl-5 text-ink-2">
      {lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
      {lines.length === 0 && <li>Nothing else is to come.</li>}
    </ul>
  );
}

/** Each meeting, when it is next, and whose it is then. */
function HeldList({
  events,
  usual,
  except,
  onExcept,
}: {
  events: readonly HeldEvent[];
  usual: Choice;
  except: ReadonlyMap<string, Heir | 'end'>;
  onExcept: (id: string, choice: Heir | 'end' | null) => void;
}) {
  const { zone, clock } = useMe();
  const [asking, setAsking] = useState<string | null>(null);
  return (
    <ul className="grid max-h-[420px] gap-2 overflow-y-auto border-y border-edge py-2">
      {events.map((one) => {
        const own = except.get(one.id);
        const words =
          own === 'end'
            ? 'does not take place'
            : own
              ? `goes to ${own.name}`
              : usual === null
                ? 'open'
                : usual === 'end'
                  ? 'does not take place'
                  : one.isPrivate && !one.to
                    ? 'private: does not take place'
                    : `goes to ${one.to?.name ?? usual.name}${one.to && !one.to.free ? ', who is busy then' : ''}`;
        const when = `${formatDay(one.start, zone)} ${formatTime(one.start, zone, clock)}`;
        const title = one.title ?? when;
        return (
          <li key={one.id} className="grid gap-0.5">
            <b className="font-semibold">{title}</b>
            <span className="text-ink-2">
              {[
                one.title !== null && when,
                one.recurring && 'repeats',
                one.draft && 'not sent yet',
                counted(one.others, 'other'),
              ]
                .filter(Boolean)
                .join(', ')}
            </span>
            <Select<string>
              look="word"
              question={`What becomes of ${title}`}
              value={own === undefined ? 'usual' : own === 'end' ? 'end' : 'heir'}
              options={[
                { value: 'usual', words: own === undefined ? words : 'as all others' },
                ...(own && own !== 'end' ? [{ value: 'heir', words }] : []),
                { value: 'end', words: 'does not take place' },
                { value: 'ask', words: 'goes to somebody else…' },
              ]}
              onChange={(value) => {
                setAsking(value === 'ask' ? one.id : null);
                if (value === 'usual') onExcept(one.id, null);
                if (value === 'end') onExcept(one.id, 'end');
              }}
            />
            {asking === one.id && (
              <FindField
                label="Who has it then"
                kinds={['person']}
                autoFocus
                onFound={(found) => {
                  onExcept(one.id, { personId: found.id, name: found.name });
                  setAsking(null);
                }}
              />
            )}
          </li>
        );
      })}
    </ul>
  );
}
