import { composeFreeBusy } from '../../../src/core/icalendar/freebusy.ts';
import type { BusyInterval } from '../../../src/core/availability/busy.ts';
import { DAY, MINUTE } from '../../../src/core/time/interval.ts';
import {
  addDays,
  dateAt,
  resolveWallTime,
  startOfDay,
  weekdayOf,
} from '../../../src/core/time/wall.ts';
import type { Clock } from '../../../src/server/platform.ts';
import type { PublishedCalendars } from '../../../src/server/published/index.ts';
import { PARTNER_DOMAIN, PARTNER_PEOPLE, PARTNER_SITE } from '../../data/organization.ts';
import { Random } from '../../data/random.ts';

const DAYS_BACK = 7;
const DAYS_AHEAD = 70;
const STARTS = [570, 600, 660, 690, 780, 840, 900, 960, 1020];

export const partnerAddress = (mailbox: string): string =>
  `https://calendars.${PARTNER_DOMAIN}/freebusy/${mailbox}.ifb`;

/** The one of the partner's people whose calendar is not published. */
export const UNPUBLISHED = 'Kabir Sethi';

const FOLDER = `https://calendars.${PARTNER_DOMAIN}/freebusy/`;
const ENDING = '.ifb';

/**
 * The partner's calendar server, made up: everybody's busy times from a week ago to ten weeks ahead,
 * the same for the same day. Other addresses are handed on.
 */
export function partnerCalendars(clock: Clock, others: PublishedCalendars): PublishedCalendars {
  return {
    async read(address) {
      if (!address.startsWith(FOLDER) || !address.endsWith(ENDING)) return others.read(address);
      const mailbox = address.slice(FOLDER.length, -ENDING.length);
      const person = PARTNER_PEOPLE.find(
        (one) => one.name.toLowerCase().replace(/ /g, '.') === mailbox && one.name !== UNPUBLISHED,
      );
      if (!person) throw new Error('The publisher answers 404.');
      return Promise.resolve(publishedBy(person.name, mailbox, clock.now()));
    },
  };
}

function publishedBy(name: string, mailbox: string, now: number): string {
  const today = dateAt(now, PARTNER_SITE.zone);
  const [first, last] = [addDays(today, -DAYS_BACK), addDays(today, DAYS_AHEAD)];
  const covers = {
    start: startOfDay(first, PARTNER_SITE.zone),
    end: startOfDay(last, PARTNER_SITE.zone),
  };
  const busy: BusyInterval[] = [];
  for (let date = first; date < last; date = addDays(date, 1)) busy.push(...dayOf(name, date));
  const owner = { name, email: `${mailbox}@${PARTNER_DOMAIN}`, url: partnerAddress(mailbox) };
  return composeFreeBusy(owner, { covers, busy }, now);
}

/** Two to four meetings on a working day; every third week somebody is out for a day. */
function dayOf(name: string, date: string): BusyInterval[] {
  if (weekdayOf(date) > 5) return [];
  const random = new Random(`${name} ${date}`);
  const midnight = startOfDay(date, PARTNER_SITE.zone);
  if (random.chance(0.06))
    return [{ start: midnight, end: midnight + DAY, occupancy: 'away' as const }];
  const starts = random.some(STARTS, 2 + random.below(3)).sort((a, b) => a - b);
  return starts.map((minute) => {
    const clock = `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
    const start = resolveWallTime(`${date}T${clock}`, PARTNER_SITE.zone).instant;
    const end = start + random.pick([30, 45, 60]) * MINUTE;
    return {
      start,
      end,
      occupancy: random.chance(0.2) ? ('tentative' as const) : ('busy' as const),
    };
  });
}
