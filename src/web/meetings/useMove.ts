import { useState } from 'react';
import type { CalendarItem } from '../../contract/eventDetail.ts';
import type { ChangeEventRequest } from '../../contract/events.ts';
import { formatDay, formatSpan } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { addDays, dateAt, wallTimeAt } from '../../core/time/wall.ts';
import { doInOrder, useMe, useNow } from '../client/index.ts';
import { pastWords } from '../time/index.ts';
import { versionNow } from './eventUndo.ts';
import type { Question } from './AskDialog.tsx';
import type { Held, GridItem } from '../grid/index.ts';
import { useEventActions } from './useEventActions.ts';

/** Where an occurrence is drawn until the server has it. */
export type ShownAt = Pick<Held, 'start' | 'end' | 'allDay'>;

export const occurrenceName = ({ occurrenceId }: Pick<CalendarItem, 'occurrenceId'>): string =>
  `occurrence ${occurrenceId}`;

/** New times of an item as a request says them: in the event's own zone, whole days by their dates. */
function timesOf(item: CalendarItem, held: Held, myZone: string): ChangeEventRequest['times'] {
  if (held.allDay) {
    return {
      startsAt: `${dateAt(held.start, myZone)}T00:00`,
      endsAt: `${addDays(dateAt(held.end - MINUTE, myZone), 1)}T00:00`,
      zone: item.zone,
      allDay: true,
    };
  }
  // What was whole days gets its hours where they were put down.
  const zone = item.allDay ? myZone : item.zone;
  return {
    startsAt: wallTimeAt(held.start, zone),
    endsAt: wallTimeAt(held.end, item.endZone ?? zone),
    zone,
    endZone: item.endZone,
    allDay: false,
  };
}

/**
 * Puts items of mine at other times. What touches other people or a series asks first; everything
 * else is done at once and can be taken back.
 */
export function useMove() {
  const me = useMe();
  const now = useNow();
  const actions = useEventActions();
  const [question, setQuestion] = useState<Question | null>(null);

  const move = (gridItem: GridItem, held: Held) => {
    const item = gridItem.mine;
    if (!item) return;
    const change: Question['act'] = ({ scope, tell, message }) => {
      const { start, end, allDay } = held;
      void doInOrder<ShownAt>({
        on: item.eventId,
        draws: { thing: occurrenceName(item), as: { start, end, allDay } },
        run: () =>
          actions.change(
            item.eventId,
            {
              // What was done to it before this is one's own.
              version: Math.max(item.version, versionNow(item.eventId) ?? 0),
              ...(item.recurrenceId && { scope, occurrence: item.recurrenceId }),
              times: timesOf(item, held, me.zone),
              tell,
              message,
            },
            `“${item.title}” is now ${held.allDay ? `on ${formatDay(held.start, me.zone)}, all day` : formatSpan(held, me.zone, me.clock)}.`,
          ),
        refresh: actions.refresh,
      });
    };
    const others = item.attendeeCount - 1;
    if (others === 0 && item.recurrenceId === null) {
      return change({ scope: 'all', tell: 'nobody', message: '' });
    }
    const to = held.allDay
      ? `${formatDay(held.start, me.zone)}, all day`
      : formatSpan(held, me.zone, me.clock);
    setQuestion({
      title: `Move “${item.title}” to ${to}?`,
      seriesStart: item.recurrenceId === null ? null : item.start,
      others,
      verb: 'Move it',
      remarks: [pastWords(held, now)].flatMap((words) => (words ? `${words}.` : [])),
      act: change,
    });
  };
  return { move, question, closeQuestion: () => setQuestion(null) };
}
