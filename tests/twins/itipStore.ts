import { Temporal } from 'temporal-polyfill';
import { naiveOccurrences } from './naiveRecurrence.ts';

/*
 * The calendar of somebody elsewhere, written from RFC 5545 and RFC 5546 alone: it knows nothing of how
 * Marmot composes a message, and reads its text by itself.
 */

/** A property: its name, its parameters and its value, as they stand. */
interface Property {
  name: string;
  parameters: Record<string, string>;
  value: string;
}

/** What one VEVENT says. */
interface Component {
  properties: Property[];
}

/** Something that is in the calendar. */
export interface Entry {
  uid: string;
  start: number;
  end: number;
  title: string;
}

interface Kept {
  sequence: number;
  stamp: string;
  master: Component | null;
  /** Single instances by the instant of their RECURRENCE-ID; null where one is cancelled. */
  instances: Map<number, Component | null>;
}

/** Lines unfolded (RFC 5545 section 3.1), each as a property. */
function propertiesOf(text: string): Property[] {
  return text
    .replace(/\r?\n[ \t]/g, '')
    .split(/\r?\n/)
    .filter(Boolean)
    .map((line) => {
      // A colon ends the parameters where it stands in no quotes (section 3.1).
      const colon = [...line].reduce(
        ({ at, quoted }, sign, k) =>
          at >= 0
            ? { at, quoted }
            : sign === '"'
              ? { at, quoted: !quoted }
              : { at: sign === ':' && !quoted ? k : -1, quoted },
        { at: -1, quoted: false },
      ).at;
      const [name = '', ...parameters] = line.slice(0, colon).split(';');
      return {
        name: name.toUpperCase(),
        value: line.slice(colon + 1),
        parameters: Object.fromEntries(
          parameters.map((one) => [
            one.slice(0, one.indexOf('=')).toUpperCase(),
            one.slice(one.indexOf('=') + 1).replaceAll('"', ''),
          ]),
        ),
      };
    });
}

function eventsOf(properties: readonly Property[]): Component[] {
  const events: Component[] = [];
  let open: Component | null = null;
  for (const one of properties) {
    if (one.name === 'BEGIN' && one.value === 'VEVENT') open = { properties: [] };
    else if (one.name === 'END' && one.value === 'VEVENT' && open) {
      events.push(open);
      open = null;
    } else open?.properties.push(one);
  }
  return events;
}

const propertyOf = ({ properties }: Component, name: string) =>
  properties.find((one) => one.name === name);

/** The instant of a DATE-TIME (section 3.3.5): in UTC, or on the clock of its TZID. */
function instantOf({ value, parameters }: Property): number {
  const wall = value.replace(/^(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z?$/, '$1-$2-$3T$4:$5:$6');
  const zone = value.endsWith('Z') ? 'UTC' : parameters.TZID!;
  return Temporal.PlainDateTime.from(wall).toZonedDateTime(zone).epochMilliseconds;
}

/** TEXT without its escapes (section 3.3.11). */
const textOf = (value = '') =>
  value.replace(/\\([\\;,nN])/g, (_, sign: string) => (/n/i.test(sign) ? '\n' : sign));

/** A calendar that takes iTIP messages as they come in. */
export class ItipStore {
  private readonly kept = new Map<string, Kept>();

  /** Applies a message (RFC 5546 sections 3.2.2 and 3.2.5); one that is older is nothing. */
  receive(text: string): void {
    const properties = propertiesOf(text);
    const method = properties.find((one) => one.name === 'METHOD')!.value;
    const events = eventsOf(properties);
    const uid = propertyOf(events[0]!, 'UID')!.value;
    const sequence = Math.max(...events.map((one) => Number(propertyOf(one, 'SEQUENCE')!.value)));
    const stamp = propertyOf(events[0]!, 'DTSTAMP')!.value;
    const before = this.kept.get(uid);
    // Section 2.1.5: the higher SEQUENCE counts, and of the same the later DTSTAMP.
    if (
      before &&
      (sequence < before.sequence || (sequence === before.sequence && stamp < before.stamp))
    )
      return;
    const now: Kept = before ?? { sequence, stamp, master: null, instances: new Map() };
    Object.assign(now, { sequence, stamp });
    const master = events.find((one) => !propertyOf(one, 'RECURRENCE-ID'));
    const alone = events.filter((one) => propertyOf(one, 'RECURRENCE-ID'));
    if (method === 'CANCEL' && master) {
      this.kept.delete(uid);
      return;
    }
    if (master) {
      now.master = master;
      // The whole was sent: what single instances were told before is told again, or holds no more.
      now.instances.clear();
    }
    for (const one of alone)
      now.instances.set(
        instantOf(propertyOf(one, 'RECURRENCE-ID')!),
        method === 'CANCEL' ? null : one,
      );
    this.kept.set(uid, now);
  }

  /** Everything that is in it, by start. */
  entries(): Entry[] {
    return [...this.kept]
      .flatMap(([uid, one]) => entriesOf(uid, one))
      .sort((a, b) => a.start - b.start || (a.uid < b.uid ? -1 : 1));
  }
}

function entriesOf(uid: string, { master, instances }: Kept): Entry[] {
  const entry = (component: Component, start: number): Entry => {
    const begin = instantOf(propertyOf(component, 'DTSTART')!);
    const end = instantOf(propertyOf(component, 'DTEND')!);
    return {
      uid,
      start,
      end: start + (end - begin),
      title: textOf(propertyOf(component, 'SUMMARY')?.value),
    };
  };
  const alone = [...instances.values()].flatMap((one) =>
    one ? [entry(one, instantOf(propertyOf(one, 'DTSTART')!))] : [],
  );
  if (!master) return alone;
  const starts = startsOf(master).filter((start) => !instances.has(start));
  return [...starts.map((start) => entry(master, start)), ...alone];
}

/** Where a component happens: once, or by its rule without its exceptions (section 3.8.5). */
function startsOf(master: Component): number[] {
  const begin = propertyOf(master, 'DTSTART')!;
  const rule = propertyOf(master, 'RRULE')?.value;
  if (!rule) return [instantOf(begin)];
  const until = /UNTIL=(\d{8}T\d{6}Z)/.exec(rule)?.[1];
  const last = until
    ? instantOf({ name: '', parameters: {}, value: until })
    : Number.POSITIVE_INFINITY;
  const except = new Set(
    master.properties
      .filter((one) => one.name === 'EXDATE')
      .flatMap((one) => one.value.split(',').map((value) => instantOf({ ...one, value }))),
  );
  const series = {
    startsAt: begin.value.replace(/^(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d).*$/, '$1-$2-$3T$4:$5'),
    zone: begin.parameters.TZID!,
    rule: rule
      .split(';')
      .filter((part) => !part.startsWith('UNTIL='))
      .join(';'),
  };
  return naiveOccurrences(series, '2027-12-31')
    .map((one) => one.start)
    .filter((start) => start <= last && !except.has(start));
}
