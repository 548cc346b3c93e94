import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { FoundEvent } from '../../contract/calendar.ts';
import type { Command } from '../../core/sentence/command.ts';
import { answerTo, useNow } from '../client/index.ts';

/** Meetings of that name are offered so many of. */
const MOST_MEANT = 4;

/** A meeting of mine that a command can mean. */
export interface MeantRow {
  value: string;
  item: FoundEvent;
}

/** The meetings to come of mine that a command names, the next first. */
export function useMeant(command: Command | null): readonly MeantRow[] {
  const now = useNow();
  const title = command && command.verb !== 'book' ? command.title : null;
  const { data } = useQuery({
    ...answerTo('GET /api/calendar/search', {
      query: { q: title ?? '', organizer: 'me' as const },
    }),
    enabled: title !== null,
    placeholderData: keepPreviousData,
  });
  if (title === null || !data) return [];
  return data.found
    .filter((item) => item.end > now)
    .sort((a, b) => a.start - b.start)
    .slice(0, MOST_MEANT)
    .map((item) => ({ value: `meant ${item.eventId} ${item.recurrenceId ?? ''}`, item }));
}
