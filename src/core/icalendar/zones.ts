import ICAL from 'ical.js';
import { findIana } from 'windows-iana';
import { isReadableZone } from '../time/wall.ts';
import { plainLine } from './text.ts';
import { explainedIn, valuesOf } from './times.ts';

/** By whose clock a calendar is read where it does not say so itself. */
export interface Clock {
  /** Of times that name no zone at all, and of whole days; null leaves them without. */
  zone: string | null;
  /** Of zones that nobody knows, where somebody said which they mean. */
  instead?: string | null | undefined;
}

/** A calendar whose times are by a clock that nobody here knows; a person has to say which it is. */
export class UnknownClock extends Error {
  override name = 'UnknownClock';

  /** @param zone the name that the calendar gives it */
  constructor(readonly zone: string) {
    super(
      `Its times are by a clock that it calls “${zone}” and does not explain. Say whose clock that is.`,
    );
  }
}

/** As long as a name is looked at; those of the zone database have at most 32 characters. */
const LONGEST_NAME = 120;

/**
 * The zone of the zone database that a name means which a calendar does not explain: its own name, with or
 * without what a program puts before it, or that by which Windows knows it (CLDR, windowsZones).
 * @returns null where nobody knows it
 */
export function zoneNamed(name: string): string | null {
  const plain = name.trim().slice(0, LONGEST_NAME);
  if (isReadableZone(plain)) return plain;
  const [windows] = findIana(plain);
  if (windows && isReadableZone(windows)) return windows;
  const parts = plain.split('/').filter((part) => part !== '');
  for (let from = 1; from < parts.length; from++) {
    const rest = parts.slice(from).join('/');
    // “UTC” and such at the end of a path are as likely anything else.
    if (rest.includes('/') && isReadableZone(rest)) return rest;
  }
  return null;
}

/**
 * Puts a zone to every time of a calendar's events that has none of its own: a name that it does not explain
 * becomes the zone that it means, and a time without a zone is by the clock of whoever reads it (RFC 5545
 * section 3.3.5, form 1). Changes the calendar.
 * @returns whether there were times without a zone
 * @throws UnknownClock where a name means nothing and nobody said what it means
 */
export function settleZones(calendar: ICAL.Component, { zone, instead }: Clock): boolean {
  let isFloating = false;
  const meant = new Map<string, string | null>();
  for (const event of calendar.getAllSubcomponents('vevent'))
    for (const property of event.getAllProperties()) {
      const name = property.getFirstParameter('tzid');
      if (typeof name === 'string' && name !== '') {
        if (!meant.has(name))
          meant.set(
            name,
            explainedIn(calendar, name) ? name : (zoneNamed(name) ?? instead ?? null),
          );
        const found = meant.get(name);
        // A date of a series is named by the series' own clock, whatever that is called.
        if (!found && property.name === 'recurrence-id') {
          property.removeParameter('tzid');
          continue;
        }
        if (!found) throw new UnknownClock(plainLine(name).slice(0, LONGEST_NAME));
        if (found !== name) property.setParameter('tzid', found);
      } else if (
        zone !== null &&
        property.type === 'date-time' &&
        property.name !== 'recurrence-id' &&
        valuesOf(property).some(isFloatingTime)
      ) {
        isFloating = true;
        property.setParameter('tzid', zone);
      }
    }
  return isFloating;
}

const isFloatingTime = (value: unknown): boolean =>
  typeof value === 'string' && /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d$/.test(value);
