import { parse, Tester, type Filter } from 'scim2-parse-filter';
import { breather } from '../actions/index.ts';
import { ScimProblem } from './errors.ts';
import { LONGEST_FILTER, MOST_OF_PAGE } from './limits.ts';
import type { Wanted } from './queries.ts';
import type { Resource } from './resources.ts';

/** What of a list is wanted (RFC 7644 section 3.4.2). */
export interface ListQuery {
  filter: Filter | null;
  /** The first, counted from 1. */
  startIndex: number;
  count: number;
  shown: Shown;
}

/** Which attributes are answered (RFC 7644 section 3.9), by their first names. */
export interface Shown {
  only: ReadonlySet<string> | null;
  without: ReadonlySet<string>;
}

type Given = Record<string, unknown>;
const textOf = (value: unknown): string =>
  Array.isArray(value) ? value.map(String).join(',') : typeof value === 'string' ? value : '';

const namesIn = (value: unknown): string[] =>
  textOf(value)
    .split(',')
    .map((name) =>
      name
        .trim()
        .replace(/^urn:.*:/i, '')
        .split('.')[0]!
        .toLowerCase(),
    )
    .filter(Boolean);

export function readShown({ attributes, excludedAttributes }: Given): Shown {
  const only = namesIn(attributes);
  return {
    only: only.length > 0 ? new Set(only) : null,
    without: new Set(namesIn(excludedAttributes)),
  };
}

/** A resource with what is wanted of it; its id and schemas always. */
export function show(resource: Resource, { only, without }: Shown): object {
  return Object.fromEntries(
    Object.entries(resource).filter(
      ([name]) =>
        ['id', 'schemas'].includes(name) ||
        (only ? only.has(name.toLowerCase()) : !without.has(name.toLowerCase())),
    ),
  );
}

/** @throws ScimProblem where it is no filter */
export function readFilter(text: string): Filter {
  if (text.length > LONGEST_FILTER)
    throw new ScimProblem(
      400,
      `A filter may be at most ${LONGEST_FILTER} characters long.`,
      'invalidFilter',
    );
  try {
    return parse(text);
  } catch (error) {
    throw new ScimProblem(
      400,
      `The filter is not understood: ${(error as Error).message}`,
      'invalidFilter',
    );
  }
}

const whole = (value: unknown, otherwise: number): number => {
  const number = typeof value === 'number' ? value : Number(textOf(value) || NaN);
  return Number.isInteger(number) ? number : otherwise;
};

export function readList(given: Given): ListQuery {
  const text = textOf(given.filter);
  return {
    filter: text === '' ? null : readFilter(text),
    startIndex: Math.max(1, whole(given.startIndex, 1)),
    count: Math.min(MOST_OF_PAGE, Math.max(0, whole(given.count, MOST_OF_PAGE))),
    shown: readShown(given),
  };
}

/** What a filter for one value asks of the database, so that not all are read for one. */
export function wantedBy(filter: Filter | null, key: string): Wanted {
  if (filter?.op !== 'eq' || typeof filter.compValue !== 'string') return {};
  const path = filter.attrPath.replace(/^urn:.*:/i, '').toLowerCase();
  if (path === 'id') {
    const id = Number(filter.compValue);
    return { id: /^\d{1,9}$/.test(filter.compValue) ? id : -1 };
  }
  if (path === key.toLowerCase()) return { key: filter.compValue };
  return path === 'externalid' ? { externalId: filter.compValue } : {};
}

/** The schemas whose attributes stand in a resource by their bare names. */
const CORE = /^urn:ietf:params:scim:schemas:core:2\.0:(?:user|group):/i;
type Value = string | number | boolean | null;
const blind = (value: Value): Value => (typeof value === 'string' ? value.toLowerCase() : value);

/** None of the attributes here is exact in its case (RFC 7643 section 2.2), but for those that are looked up. */
class CaseBlindTester extends Tester {
  override attrPath(path: string): string[] {
    return super.attrPath(path.replace(CORE, ''));
  }
  override eq(value: Value, wanted: Value): boolean {
    return blind(value) === blind(wanted);
  }
  override ne(value: Value, wanted: Value): boolean {
    return blind(value) !== blind(wanted);
  }
  override co(value: Value, wanted: Value): boolean {
    return super.co(blind(value), blind(wanted));
  }
  override sw(value: Value, wanted: Value): boolean {
    return super.sw(blind(value), blind(wanted));
  }
  override ew(value: Value, wanted: Value): boolean {
    return super.ew(blind(value), blind(wanted));
  }
}

/** A page of what fits (RFC 7644 section 3.4.2.4); a filter that is run on all of them yields. */
export async function listOf(
  all: readonly Resource[],
  { filter, startIndex, count, shown }: ListQuery,
): Promise<object> {
  const tester = new CaseBlindTester();
  const fits = (one: Resource) => filter === null || tester.test(one, filter);
  const breathe = breather();
  const fitting: Resource[] = [];
  for (const one of all) {
    if (fits(one)) fitting.push(one);
    await breathe();
  }
  const page = fitting.slice(startIndex - 1, startIndex - 1 + count);
  return {
    schemas: ['urn:ietf:params:scim:api:messages:2.0:ListResponse'],
    totalResults: fitting.length,
    startIndex,
    itemsPerPage: page.length,
    Resources: page.map((one) => show(one, shown)),
  };
}
