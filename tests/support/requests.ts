import type { CreateEventRequest } from '../../src/contract/events.ts';

/** A request for an hour on Thursday 10 December 2026, a day with room to spare. */
export function meetingRequest(changes: Partial<CreateEventRequest> = {}): CreateEventRequest {
  return {
    title: 'Kelp review',
    times: bergenTimes('2026-12-10T10:00', '2026-12-10T11:00'),
    ...changes,
  };
}

export const bergenTimes = (startsAt: string, endsAt: string) => ({
  startsAt,
  endsAt,
  zone: 'Europe/Oslo',
});
