import type { NewPlaceRequest } from '../../src/contract/catalogue.ts';
import { NO_RULES } from '../../src/core/booking/rules.ts';
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

/** A place as a steward adds it; what is not given is usual. */
export const newPlace = (more: Partial<NewPlaceRequest> = {}): NewPlaceRequest => ({
  name: 'Little Auk',
  kind: 'room',
  siteId: 1,
  floor: '1',
  capacity: 6,
  units: 1,
  description: '',
  features: ['screen'],
  prepareMinutes: 0,
  clearMinutes: 0,
  rules: structuredClone(NO_RULES) as NewPlaceRequest['rules'],
  ...more,
});
