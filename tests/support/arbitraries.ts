import fc from 'fast-check';
import type { z } from 'zod';
import {
  calendarDate,
  idInPath,
  instant,
  subjectId,
  wallTime,
  zone,
} from '../../src/contract/common.ts';

/** Things that exist, so that requests get further than the door. */
export interface Known {
  subjects: readonly number[];
  events: readonly string[];
}

type Schema = z.core.$ZodType;

const NASTY_TEXTS = [
  '',
  ' ',
  '\0',
  'a\0b',
  '\u001b[31m',
  '\ud800',
  '﷽'.repeat(50),
  'x'.repeat(70_000),
  "'; drop table event; --",
  '__proto__',
  '../../etc/passwd',
  '%00',
  '%',
  '\\',
  '<img src=x onerror=alert(1)>',
  '2026-02-30T25:61',
  '9999-12-31T23:59',
  '0000-00-00',
  '-271821-04-20T00:00',
  'US/Pacific-New',
  'FREQ=SECONDLY',
  'FREQ=DAILY;INTERVAL=0',
  'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31',
  'FREQ=DAILY;UNTIL=99991231T235959Z',
  'NaN',
  '1e400',
  '-0',
];
const NASTY_NUMBERS = [
  0,
  -0,
  -1,
  1,
  0.5,
  2 ** 31 - 1,
  2 ** 31,
  2 ** 53,
  2 ** 53 - 1,
  -(2 ** 53),
  8.64e15,
  8.64e15 + 1,
  -8.64e15,
  1e308,
  Date.UTC(1900, 0, 1),
  Date.UTC(2200, 0, 1),
  Date.UTC(2026, 10, 24),
];

/** Anything at all, in no shape that was asked for. */
export const anything: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom<unknown>(
    ...NASTY_TEXTS,
    ...NASTY_NUMBERS,
    null,
    true,
    false,
    [],
    {},
    [[]],
    [null],
  ),
  fc.constant({ __proto__: null, constructor: 1, toString: 2 }),
  fc.jsonValue({ maxDepth: 3 }),
);

const text = fc.oneof(
  { weight: 3, arbitrary: fc.string({ maxLength: 40 }) },
  { weight: 1, arbitrary: fc.string({ unit: 'binary', maxLength: 40 }) },
  { weight: 2, arbitrary: fc.constantFrom(...NASTY_TEXTS) },
  fc.constantFrom('FREQ=WEEKLY;COUNT=5', 'FREQ=DAILY', 'FREQ=MONTHLY;BYDAY=-1FR', 'a@b.example'),
);
const numeric = fc.oneof(
  fc.integer({ min: 0, max: 100 }),
  fc.integer({ min: 0, max: 2000 }),
  fc.constantFrom(...NASTY_NUMBERS),
);
const day = fc
  .integer({ min: -400, max: 1500 })
  .map((days) => new Date(Date.UTC(2026, 10, 24) + days * 86_400_000).toISOString().slice(0, 10));
const wall = fc.tuple(day, fc.integer({ min: 0, max: 95 })).map(([date, slot]) => {
  const minutes = slot * 15;
  const two = (value: number) => String(value).padStart(2, '0');
  return `${date}T${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;
});

/** The definition inside a Zod schema, as far as it is looked at here. */
interface Definition {
  type: string;
  shape?: Record<string, Schema>;
  element?: Schema;
  innerType?: Schema;
  in?: Schema;
  options?: Schema[];
  entries?: Record<string, string | number>;
  values?: unknown[];
  items?: Schema[];
  format?: string;
  checks?: { _zod: { def: { check: string; maximum?: number; minimum?: number } } }[];
}

/**
 * Requests that mostly have the shape that a schema of the contract asks for, with boundary values and
 * nonsense in every place.
 */
export function requestsOf(schema: Schema, known: Known): fc.Arbitrary<unknown> {
  const special = new Map<Schema, fc.Arbitrary<unknown>>([
    [subjectId, fc.oneof({ weight: 6, arbitrary: fc.constantFrom(...known.subjects) }, numeric)],
    [
      idInPath,
      fc.oneof({ weight: 6, arbitrary: fc.constantFrom(...known.subjects) }, numeric, text),
    ],
    [
      instant,
      fc.oneof(
        { weight: 4, arbitrary: day.map((date) => Date.parse(`${date}T00:00Z`)) },
        fc.constantFrom(...NASTY_NUMBERS),
      ),
    ],
    [wallTime, fc.oneof({ weight: 6, arbitrary: wall }, fc.constantFrom(...NASTY_TEXTS))],
    [calendarDate, fc.oneof({ weight: 6, arbitrary: day }, fc.constantFrom(...NASTY_TEXTS))],
    [
      zone,
      fc.constantFrom(
        'Europe/Oslo',
        'Australia/Hobart',
        'America/Halifax',
        'UTC',
        'US/Pacific-New',
        'Mars',
      ),
    ],
  ]);
  const of = (one: Schema): fc.Arbitrary<unknown> => {
    const found = special.get(one);
    if (found) return found;
    // Now and then something is nothing of what it ought to be.
    return fc.oneof({ weight: 30, arbitrary: shaped(one) }, { weight: 1, arbitrary: anything });
  };
  const shaped = (one: Schema): fc.Arbitrary<unknown> => {
    const definition = one._zod.def as unknown as Definition;
    switch (definition.type) {
      case 'object':
        return objectOf(definition.shape!);
      case 'array': {
        const most = bound(definition, 'max_length') ?? 5;
        const element = of(definition.element!);
        return fc.oneof(
          { weight: 8, arbitrary: fc.array(element, { maxLength: Math.min(6, most) }) },
          {
            weight: 1,
            arbitrary: element.map((value) => Array<unknown>(Math.min(most + 1, 3000)).fill(value)),
          },
        );
      }
      case 'optional':
      case 'nullable':
      case 'default':
      case 'prefault':
        return fc.option(of(definition.innerType!), {
          nil: definition.type === 'nullable' ? null : undefined,
        });
      case 'readonly':
      case 'nonoptional':
      case 'catch':
        return of(definition.innerType!);
      case 'pipe':
        return of(definition.in!);
      case 'union':
        return fc.oneof(...definition.options!.map(of));
      case 'enum':
        return fc.constantFrom(...Object.values(definition.entries!));
      case 'literal':
        return fc.constantFrom(...definition.values!);
      case 'tuple':
        return fc.tuple(...definition.items!.map(of));
      case 'boolean':
        return fc.boolean();
      case 'number':
        return numeric;
      case 'string':
        if (definition.format === 'uuid')
          return fc.oneof(
            { weight: 4, arbitrary: fc.constantFrom(...known.events) },
            fc.uuid(),
            text,
          );
        return text;
      default:
        return anything;
    }
  };
  const objectOf = (shape: Record<string, Schema>) =>
    fc.record(Object.fromEntries(Object.entries(shape).map(([name, part]) => [name, of(part)])));
  return of(schema);
}

const bound = ({ checks }: Definition, name: string): number | undefined =>
  checks?.find((one) => one._zod.def.check === name)?._zod.def.maximum;
