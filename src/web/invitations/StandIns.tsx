import { useMutation, useQuery } from '@tanstack/react-query';
import type { ChangeEventRequest, UndoEventRequest } from '../../contract/events.ts';
import type { MeetingReplies } from '../../contract/invitations.ts';
import { LineUpFit } from '../../core/planner/fit.ts';
import { addDays, dateAt, startOfDay } from '../../core/time/wall.ts';
import {
  answerTo,
  errorText,
  offerUndo,
  useChanged,
  useMe,
  useNow,
  useShown,
  callApi,
} from '../client/index.ts';
import { tellUser } from '../design/notices.ts';
import { invitedWith } from '../lineUp/index.ts';

/** Of a larger team only so many are looked at. */
const MOST_LOOKED_AT = 30;
const MOST_OFFERED = 3;

/** Who of the team of somebody who cannot come is free then, each asked with one click. */
export function StandIns({
  meeting,
  absent,
}: {
  meeting: MeetingReplies;
  absent: { personId: number; name: string };
}) {
  const me = useMe();
  const now = useNow();
  const changed = useChanged();
  const names = useQuery({
    ...answerTo('GET /api/search/names'),
    staleTime: 60_000,
  });
  const asked = new Set(meeting.replies.map((one) => one.personId));
  const team = names.data?.teams.find((one) => one.memberIds.includes(absent.personId));
  const ids = (team?.memberIds ?? [])
    .filter((id) => id !== me.id && !asked.has(id))
    .slice(0, MOST_LOOKED_AT);
  const day = dateAt(meeting.start, me.zone);
  const window = {
    start: startOfDay(day, me.zone),
    end: Math.max(meeting.end, startOfDay(addDays(day, 1), me.zone)),
  };
  useShown(ids.map((id) => `calendar:${id}`));
  const busy = useQuery({
    ...answerTo('POST /api/availability/busy', {
      body: {
        subjects: ids,
        from: window.start,
        to: window.end,
      },
    }),
    enabled: ids.length > 0 && meeting.start > now,
  });
  const members = (busy.data?.subjects ?? []).map((one) => ({
    ...one,
    role: 'required' as const,
    setAside: false,
    hours: one.hours,
    busy: one.busy.map(([start, end, occupancy]) => ({ start, end, occupancy })),
    changeovers: [],
  }));
  const free = new LineUpFit(members, window)
    .at({ start: meeting.start, end: meeting.end })
    .filter((fit) => fit.state === 'free')
    .flatMap((fit) => members.find((one) => one.id === fit.id) ?? [])
    .slice(0, MOST_OFFERED);

  const ask = useMutation({
    mutationFn: async ({ id }: { id: number; name: string }) => {
      const event = await callApi('GET /api/events/:id', { params: { id: meeting.id } });
      return callApi('PATCH /api/events/:id', {
        params: { id: meeting.id },
        body: {
          version: event.version,
          attendees: invitedWith(event, [{ personId: id, role: 'required' }]),
          tell: 'concerned',
        } satisfies ChangeEventRequest,
      });
    },
    onSuccess: (event, { name }) =>
      offerUndo(`${name} is asked to “${meeting.title}”, in place of ${absent.name}.`, async () => {
        await callApi('POST /api/events/:id/undo', {
          params: { id: meeting.id },
          body: {
            version: event.version,
            change: event.version,
            tell: 'concerned',
          } satisfies UndoEventRequest,
        }).catch((error: unknown) => tellUser(errorText(error)));
        await changed('meeting');
      }),
    onError: (error) => tellUser(errorText(error)),
    onSettled: () => changed('meeting'),
  });
  if (!team || free.length === 0) return null;
  return (
    <p className="mt-0.5 pl-8 text-xs">
      Who could stand in? Free then, of {team.name}:{' '}
      {free.map(({ id, name }, k) => (
        <span key={id}>
          {k > 0 && ', '}
          <button
            type="button"
            className="reach font-semibold text-gentian hover:underline"
            disabled={ask.isPending}
            aria-label={`Ask ${name} in place of ${absent.name}`}
            onClick={() => ask.mutate({ id, name })}
          >
            {name}
          </button>
        </span>
      ))}
    </p>
  );
}
