import { numberOf } from '../time/numberWords.ts';
import { parseTimeOfDay } from '../time/typedTime.ts';
import { eachRun, isEnd, type Reading } from './words.ts';

/** A time of day as it was said; both in minutes after midnight. */
interface Clock {
  minute: number;
  /** The other half of the day, where a bare hour was said that people mean either way. */
  other: number | null;
}

const DAY = 1440;
const HALF = 720;
/** Bare hours below are of the afternoon: nobody meets at four in the morning. */
const FIRST_MORNING_HOUR = 7;
/** Bare hours from here on are of the morning, and nothing else is offered. */
const SURE_MORNING_HOUR = 9;

/** A time on a clock of twelve hours whose half was not said. */
function guessed(hour: number, minute: number): Clock {
  const at = hour * 60 + minute;
  if (hour < 1 || hour > 11 || hour >= SURE_MORNING_HOUR) return { minute: at % DAY, other: null };
  return hour < FIRST_MORNING_HOUR
    ? { minute: at + HALF, other: at }
    : { minute: at, other: at + HALF };
}

/** Half past two, quarter to ten, ten past four. */
function spoken(text: string): Clock | null {
  const match =
    /^(half|quarter|a quarter|five|ten|twenty|\d{1,2}) (past|to) (\w+?)(?: ?([ap])m)?$/i.exec(text);
  if (!match) return null;
  const [, part, side, name, half] = match;
  const hour = numberOf(name!);
  const by = /half/i.test(part!)
    ? 30
    : /quarter/i.test(part!)
      ? 15
      : /twenty/i.test(part!)
        ? 20
        : numberOf(part!);
  const isNumber = !/^(half|a quarter|quarter)$/i.test(part!);
  if (!(hour >= 1 && hour <= 12) || !(by >= 1 && by <= 30)) return null;
  // "9 to 11" is no time, but a span; "half to" is nothing.
  if (side === 'to' && (part === 'half' || (isNumber && /^\d/.test(name!)))) return null;
  if (side === 'past' && isNumber && /^\d/.test(part!) && /^\d/.test(name!)) return null;
  const at = side === 'past' ? hour * 60 + by : hour * 60 - by;
  if (half) {
    const minute = (at % HALF) + (half.toLowerCase() === 'p' ? HALF : 0);
    return { minute, other: null };
  }
  return guessed(Math.floor(at / 60), at % 60);
}

/** A text that is a time of day whatever stands around it. */
function surely(text: string): Clock | null {
  if (/^(noon|midday)$/i.test(text)) return { minute: HALF, other: null };
  if (/^midnight$/i.test(text)) return { minute: 0, other: null };
  if (
    /^\d{1,2}[:.]\d{2}$/.test(text) ||
    /^(\d{1,2}h\d{2}|(1[3-9]|2[0-3])h|0\d[0-5]\d)$/i.test(text) ||
    /^\d{1,2}([:.]\d{2})?\s?([ap]m|[ap])$/i.test(text)
  ) {
    const minute = parseTimeOfDay(text);
    if (minute === null) return null;
    return /^[1-9][:.]/.test(text) && !/[apm]$/i.test(text)
      ? guessed(Math.floor(minute / 60), minute % 60)
      : { minute, other: null };
  }
  const oclock = /^(\w+) ?o[’']?clock$/i.exec(text) ?? /^(\d{1,2})[- ]?ish$/i.exec(text);
  if (oclock) {
    const hour = numberOf(oclock[1]!);
    return hour >= 0 && hour <= 23 ? guessed(hour, 0) : null;
  }
  return spoken(text);
}

/** As `surely`, or a bare number of hours, or hours and minutes, which need a reason to be a time. */
function perhaps(text: string): Clock | null {
  const sure = surely(text);
  if (sure) return sure;
  const spelt = /^([a-z]+)(?: (fifteen|thirty|forty-five))?$/i.exec(text);
  if (spelt) {
    const hour = numberOf(spelt[1]!);
    const minutes = { fifteen: 15, thirty: 30, 'forty-five': 45 }[spelt[2]?.toLowerCase() ?? ''];
    return hour >= 1 && hour <= 12 ? guessed(hour, minutes ?? 0) : null;
  }
  if (!/^\d{1,4}$/.test(text)) return null;
  if (text === '24') return { minute: 0, other: null };
  const minute = parseTimeOfDay(text);
  if (minute === null) return null;
  return /^[1-9]$|^[1-9][0-5]\d$/.test(text)
    ? guessed(Math.floor(minute / 60), minute % 60)
    : { minute, other: null };
}

/** A span of a day, from its start to its end, itself not belonging to it. */
interface Span {
  start: Clock;
  minutes: number;
}

/** "2 to 3pm" is read in the half of the day that the second is in, "9 to 5" goes into the afternoon. */
function spanOf(first: string, second: string): Span | null {
  const [from, to] = [perhaps(first), perhaps(second)];
  if (!from || !to) return null;
  const [halfFirst, halfSecond] = [first, second].map((text) => /[ap]m?$/i.test(text));
  const starts = [from.minute, ...(from.other === null ? [] : [from.other])];
  const isBare = /^\d{1,2}(:\d{2})?$/.test(second) && !/^0/.test(second);
  const ends = [
    to.minute,
    ...(to.other === null ? [] : [to.other]),
    ...(isBare && to.minute < HALF ? [to.minute + HALF] : []),
    ...(to.minute === 0 ? [DAY] : []),
  ];
  if (!halfFirst && halfSecond) {
    // "2-3pm": in its half, where it comes before the end; "11-1pm" comes from the other one.
    const hour = from.minute % HALF;
    starts.splice(0, starts.length, ...[hour + HALF, hour].filter((at) => at < to.minute));
    ends.splice(1);
  }
  for (const start of starts) {
    const later = ends.filter((one) => one > start).sort((a, b) => a - b)[0];
    if (later === undefined) continue;
    const minutes = later - start;
    const other = from.other !== null && !halfSecond && start === from.minute ? from.other : null;
    return { start: { minute: start, other }, minutes };
  }
  return null;
}

const TIME =
  '(?:noon|midday|midnight|\\d{1,4}(?:[:.h]\\d{2})?\\s?(?:[ap]m?)?|(?:half|quarter) (?:past|to) \\w+|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve)';
const RANGE = new RegExp(`^(from )?(${TIME}) (?:to|until|till|til|through|-) (${TIME})$`, 'i');
const BETWEEN = new RegExp(`^between (${TIME}) (?:and|-) (${TIME})$`, 'i');
const EDGE = new RegExp(`^(after|before|not before|not after|from) (${TIME})( on)?$`, 'i');
/** What a bare number after it counts, so that "chapters 9 to 11" is no time. */
const COUNTED =
  /^(chapters?|pages?|floors?|levels?|phases?|steps?|items?|points?|projects?|figures?|weeks?|days?|numbers?|no|units?|sites?|room|lab|desks?|grades?|versions?|v|q|rounds?|stages?|sections?|lines?|ages?)\.?$/i;

/** "14:00 to 15:30" is a time and a length; "between 10 and 12" and "after 15:00" say when it may be. */
export function readRanges({ words, take }: Reading): void {
  const isBare = (text: string) => /^(\d{1,2}|[a-z]+)$/i.test(text);
  const range = (text: string) => {
    const match = RANGE.exec(text);
    const span = match && spanOf(match[2]!, match[3]!);
    if (!span) return null;
    return { span, needsReason: !match[1] && isBare(match[2]!) && isBare(match[3]!) };
  };
  eachRun(words, 7, range, (at, count, { span, needsReason }, text) => {
    const before = words[at - 1];
    if (needsReason && ((before && COUNTED.test(before.text)) || !isEnd(words[at + count])))
      if (!before?.taken) return;
    take(at, count, { kind: 'time', words: text, ...span.start, zone: null, place: '' });
    take(at, count, { kind: 'length', words: text, minutes: span.minutes });
  });
  const between = (text: string): [number, number] | null => {
    const match = BETWEEN.exec(text);
    const span = match && spanOf(match[1]!, match[2]!);
    if (span) return [span.start.minute, span.start.minute + span.minutes];
    const edge = EDGE.exec(text);
    const clock = edge && !/^from/i.test(text) ? perhaps(edge[2]!) : null;
    if (!clock) return null;
    return /^(before|not after)/i.test(text) ? [0, clock.minute] : [clock.minute, DAY];
  };
  eachRun(words, 6, between, (at, count, [from, to], text) => {
    if (from < to && isEnd(words[at + count]))
      take(at, count, { kind: 'between', words: text, from, to });
  });
}

const LEADS = /^(at|@|from|around|about|ca|circa|kl|um|à|ab|po|o)\.?$/i;

/** "14:00", "2pm", "14h30", "half past two", "at nine", "9ish", "Fri 9", "0900". */
export function readTimes({ words, take }: Reading): void {
  const chip = (clock: Clock, text: string) =>
    ({ kind: 'time', words: text, ...clock, zone: null, place: '' }) as const;
  eachRun(words, 4, surely, (at, count, clock, text) => {
    const begin = words[at - 1];
    const led = begin && !begin.taken && /^(at|@|around|ca|kl)\.?$/i.test(begin.text) ? 1 : 0;
    take(at - led, count + led, chip(clock, text));
  });
  // A bare number is a time after "at", and after a day.
  words.forEach((word, at) => {
    if (word.taken) return;
    const isLed = LEADS.test(word.text);
    const isAfterDay = words[at - 1]?.as === 'day' && /^\d{1,2}$/.test(word.text);
    if (!isLed && !isAfterDay) return;
    const from = isLed ? at + 1 : at;
    for (const count of [4, 3, 2, 1]) {
      const run = words.slice(from, from + count);
      if (run.length < count || run.some((one) => one.taken)) continue;
      const text = run.map((one) => one.text).join(' ');
      const clock = perhaps(text);
      // "at 9 sites" is no time.
      const next = words[from + count];
      if (!clock || (!isEnd(next) && /s$/i.test(next!.text))) continue;
      take(at, from - at + count, chip(clock, isLed ? `${word.text} ${text}` : text));
      return;
    }
  });
}

/** "now", "in 20 min", "in two hours", as of the moment it is said. */
export function readAhead({ words, take, reader: { today, minute } }: Reading): void {
  const ahead = (text: string): number | null => {
    if (/^(right )?now$/i.test(text)) return 0;
    if (/^in half an hour$/i.test(text)) return 30;
    const match = /^in (an?|\w+) (min|mins|minutes?|hours?|hrs?|h)$/i.exec(text);
    const short = /^in (\d{1,3}) ?(m|min|h)$/i.exec(text);
    const [, number, unit] = match ?? short ?? [];
    if (!number || !unit) return null;
    const count = /^an?$/i.test(number) ? 1 : numberOf(number);
    return count > 0 ? count * (unit.toLowerCase().startsWith('h') ? 60 : 1) : null;
  };
  eachRun(words, 4, ahead, (at, count, minutes, text) => {
    if (minute + minutes >= DAY) return;
    take(at, count, { kind: 'day', words: text, date: today, other: null });
    const clock = { minute: minute + minutes, other: null, zone: null, place: '' };
    take(at, count, { kind: 'time', words: text, ...clock });
  });
}
