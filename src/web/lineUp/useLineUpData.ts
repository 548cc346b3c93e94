import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { MovableResponse, SubjectBusy } from '../../contract/availability.ts';
import type { LineUpMember } from '../../core/planner/lineUp.ts';
import type { OwnMeeting } from '../../core/planner/moves.ts';
import { roomCandidate } from '../../core/planner/rooms.ts';
import type { PastMeeting, RoomCandidate } from '../../core/planner/wishes.ts';
import { clip, type Interval } from '../../core/time/interval.ts';
import { callApi, answerTo, useShown, useStable } from '../client/index.ts';
import type { LineUpEntry } from './address.ts';

/** A member of the line-up as Plan shows it. */
export type Member = LineUpMember &
  Pick<SubjectBusy, 'detail' | 'seats' | 'email' | 'published'> & {
    /** True for a mail address of which nothing is known. */
    outside: boolean;
  };

/** What the planner needs to know of each member besides its role. */
export type KnownMember = Omit<Member, 'role' | 'setAside'>;

/** A meeting of mine that could move, with what its own address and button need. */
export type MyMeeting = OwnMeeting & { version: number; zone: string; outsiders: number };

/** Everything the server knows for a plan; the worker keeps it between questions. */
export interface PlanData {
  members: KnownMember[];
  rooms: RoomCandidate[];
  history: PastMeeting[];
  own: MyMeeting[];
}

export interface EventToMove {
  eventId: string;
  occurrence: string | null;
}

const spansOf = (busy: SubjectBusy['busy']): LineUpMember['busy'] =>
  busy.map(([start, end, occupancy]) => ({ start, end, occupancy }));

const known = (subject: SubjectBusy): KnownMember => ({
  ...subject,
  busy: spansOf(subject.busy),
  changeovers: subject.changeovers.map(([start, end]) => ({ start, end })),
  outside: false,
});

/** How a member or a room is named among what a window shows. */
const subjectName = (kind: 'person' | 'resource', id: number) =>
  `${kind === 'person' ? 'calendar' : 'resource'}:${id}`;

/** What an answer was read for: it says nothing of anything else. */
interface ReadFor {
  ids: readonly number[];
  window: Interval;
  except: string;
}

/** Whether it tells all that is asked now, over its own window. */
const tells = (read: ReadFor, ids: readonly number[], except: string): boolean =>
  read.except === except && ids.every((id) => read.ids.includes(id));

/**
 * Asks the server for the line-up's time over a window, for rooms, past meetings and my own. While that
 * is on its way, what was read before stays, and `read` says how far it tells of what is asked now:
 * time outside of it is not known to be free.
 */
export function useLineUpData(
  lineUp: readonly LineUpEntry[],
  window: Interval,
  zone: string,
  moving: EventToMove | null,
) {
  const ids = lineUp.flatMap((one) => (one.email ? [] : [one.id]));
  const { start: from, end: to } = window;
  const except = moving && {
    eventId: moving.eventId,
    ...(moving.occurrence && { occurrence: moving.occurrence }),
  };
  const kept = { placeholderData: keepPreviousData };
  const exceptKey = JSON.stringify(except);
  const busy = useQuery({
    ...kept,
    queryKey: ['POST /api/availability/busy', ids.join(), from, to, except],
    queryFn: async () => ({
      ...(await callApi('POST /api/availability/busy', {
        body: {
          subjects: ids,
          from,
          to,
          ...(except && { except }),
        },
      })),
      read: { ids, window: { start: from, end: to }, except: exceptKey } satisfies ReadFor,
    }),
  });
  // What could not be read takes nothing away of what was.
  const [lastBusy, setLastBusy] = useState(busy.data);
  if (busy.data && busy.data !== lastBusy) setLastBusy(busy.data);
  const busyData = busy.data ?? lastBusy;
  const siteIds = [
    ...new Set(
      (busyData?.subjects ?? []).flatMap((one) =>
        one.kind === 'person' && one.siteId ? [one.siteId] : [],
      ),
    ),
  ].sort((a, b) => a - b);
  const rooms = useQuery({
    ...kept,
    queryKey: ['POST /api/availability/rooms', siteIds.join(), from, to, except],
    queryFn: async () => ({
      ...(await callApi('POST /api/availability/rooms', {
        body: {
          siteIds,
          from,
          to,
          ...(except && { except }),
        },
      })),
      read: { ids: siteIds, window: { start: from, end: to }, except: exceptKey } satisfies ReadFor,
    }),
    enabled: siteIds.length > 0,
  });
  const people = (busyData?.subjects ?? [])
    .filter((one) => one.kind === 'person')
    .map((one) => one.id)
    .sort((a, b) => a - b);
  useShown([
    ...(busyData?.subjects ?? []).map((one) => subjectName(one.kind, one.id)),
    ...(rooms.data?.rooms ?? []).map((one) => subjectName('resource', one.id)),
  ]);
  const history = useQuery({
    ...kept,
    ...answerTo('POST /api/availability/history', { body: { people } }),
    enabled: people.length > 1,
  });
  const movable = useQuery({
    ...kept,
    ...answerTo('POST /api/availability/movable', { body: { from, to } }),
  });

  const outside = lineUp.flatMap((one) => (one.email ? [`${one.id} ${one.email}`] : [])).join();
  const data = useMemo((): PlanData => {
    const strangers = outside
      .split(',')
      .filter(Boolean)
      .map((one) => one.split(' ') as [string, string]);
    return {
      members: [
        ...(busyData?.subjects ?? []).map(known),
        ...strangers.map(([id, email]) => strangerMember(Number(id), email, zone)),
      ],
      rooms: (rooms.data?.rooms ?? []).map(roomCandidate),
      history: history.data?.meetings ?? [],
      own: movable.data ? ownMeetings(movable.data, moving) : [],
    };
  }, [busyData, rooms.data, history.data, movable.data, outside, zone, moving]);

  const readBusy =
    busy.data && tells(busy.data.read, ids, exceptKey) ? busy.data.read.window : null;
  const readRooms =
    rooms.data && tells(rooms.data.read, siteIds, exceptKey) ? rooms.data.read : null;
  const both =
    siteIds.length === 0 ? readBusy : readBusy && readRooms && clip(readBusy, readRooms.window);
  const readStart = both?.start ?? null;
  const readEnd = both?.end ?? null;
  const read = useMemo<Interval | null>(
    () => (readStart === null || readEnd === null ? null : { start: readStart, end: readEnd }),
    [readStart, readEnd],
  );
  const asking = useStable({
    retry: () => {
      if (busy.isError) void busy.refetch();
      if (rooms.isError) void rooms.refetch();
    },
    /** Reads everybody's time again, as it is at this moment. @throws when it cannot be read */
    readAgain: async (): Promise<KnownMember[]> => {
      const fresh = await busy.refetch({ throwOnError: true });
      return (fresh.data?.subjects ?? []).map(known);
    },
  });
  return {
    data,
    /** How far the time of all that is asked for has been read; null while it is for some of them. */
    read,
    error: busy.error ?? rooms.error,
    ...asking,
  };
}

/** Somebody outside: nothing is known of their time, which is never taken for free. */
const strangerMember = (id: number, email: string, zone: string): KnownMember => ({
  id,
  name: email,
  email,
  kind: 'person',
  detail: 'outside, nothing is known',
  zone,
  hours: null,
  siteId: null,
  seats: null,
  published: null,
  busy: [],
  knowledge: 'none',
  outside: true,
});

function ownMeetings(
  { meetings, subjects }: MovableResponse,
  moving: EventToMove | null,
): MyMeeting[] {
  const byId = new Map(subjects.map((one) => [one.id, known(one)]));
  return meetings
    .filter((one) => one.eventId !== moving?.eventId)
    .map((meeting) => {
      const roles = new Map(meeting.people.map(({ id, role }) => [id, role]));
      const takes = [...roles.keys(), ...meeting.resources];
      return {
        ...meeting,
        takes,
        lineUp: takes.flatMap((id): LineUpMember[] => {
          const member = byId.get(id);
          return member ? [{ ...member, role: roles.get(id) ?? 'required', setAside: false }] : [];
        }),
      };
    });
}
