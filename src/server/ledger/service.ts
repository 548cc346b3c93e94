import {
  type LedgerExportQuery,
  type LedgerQuery,
  type LedgerResponse,
  type LedgerRow,
  type LedgerViewRequest,
} from '../../contract/ledger.ts';
import { MOST_EXPORTED } from '../../contract/limits.ts';
import { COUNTED_UP_TO } from '../../contract/limits.ts';
import { MOST_GROUPS } from '../../contract/limits.ts';
import { MOST_VIEWS } from '../../contract/limits.ts';
import { eventLevel, mayChange, showsEverything } from '../../core/availability/busy.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { Levels, may, projectBooking } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Pool } from 'pg';
import { transaction, type Database, type Transaction } from '../db/transaction.ts';
import { readSites } from '../places/index.ts';
import { isTallied, readGroups } from './groupQueries.ts';
import { spanOf, type Searched } from './matchingQueries.ts';
import { countRead, countRows, readPage, type Cursor, type LedgerEntry } from './pageQueries.ts';
import { deleteView, planAlone, readNamedBy, readViews, upsertView } from './queries.ts';
import { tallyOf } from './tallyQueries.ts';
import { EXPORT_PAGE, MOST_COUNTED, MOST_READ_THROUGH } from './limits.ts';

/**
 * Reads the ledger as its questions are: from when to when decides which way is the shortest, so that
 * each is planned by itself and not once for all. What it reads is mostly in memory, where going to a row
 * costs little more than coming past it.
 */
export const reading = <T>(pool: Pool, work: (tx: Transaction) => Promise<T>): Promise<T> =>
  transaction(pool, (tx) => {
    planAlone(tx);
    return work(tx);
  });

/**
 * A page of the ledger, or its groups.
 * @param most how many bookings are read through for their words
 * @throws Refusal for a cursor that no answer gave, and for what would read through too many
 */
export async function ledgerPage(
  db: Database,
  actor: PersonActor,
  query: LedgerQuery,
  now: number,
  most = MOST_READ_THROUGH,
): Promise<LedgerResponse> {
  const { group, after, limit } = query;
  const part = { group, in: query.in };
  const isGroups = group !== undefined && query.in === undefined;
  const cursor = after === undefined ? null : readCursor(after, query);
  const searched = { ...query, named: await readNamedBy(db, query.q) };
  await refuseTooWide(db, actor, searched, now, most);
  const sites = (await readSites(db)).map(({ id, name }) => ({ id, name }));
  const answer = { rows: [], next: null, groups: [], isMore: false, sites };
  if (isGroups) {
    const groups = await readGroups(db, actor, searched, group, now);
    return {
      ...answer,
      total: groups.reduce((sum, one) => sum + one.bookings, 0),
      isMore: groups.length === MOST_GROUPS,
      groups: groups.map((one) => ({ ...one, minutes: Math.round(one.minutes) })),
    };
  }
  const page = { ...part, after: cursor, limit: limit + 1 };
  const found = await readPage(db, actor, searched, page, now);
  const total =
    found.total ??
    (found.rows.length === 0 && cursor === null
      ? 0
      : await countRows(db, actor, searched, part, COUNTED_UP_TO, now));
  const shown = found.rows.slice(0, limit);
  const last = shown.at(-1);
  return {
    ...answer,
    rows: await project(db, actor, shown, now),
    next:
      found.rows.length > limit && last
        ? writeCursor([last.sortedBy, last.start, String(last.id)])
        : null,
    total: Math.min(total, COUNTED_UP_TO),
    isMore: total > COUNTED_UP_TO,
  };
}

/** Bookings as far as somebody may see them. */
async function project(
  db: Database,
  actor: PersonActor,
  entries: readonly LedgerEntry[],
  now: number,
): Promise<LedgerRow[]> {
  const levels = await Levels.of(
    db,
    actor,
    entries.map((one) => one.organizerId),
  );
  return entries.map((one) => {
    const seen = projectBooking(one, levels);
    const own = one.organizerId === null ? 'nothing' : levels.calendar(one.organizerId);
    const level = eventLevel(own, one.visibility, one.takesPart, one.inviteesChange);
    const isOpen = showsEverything(level);
    const isOpenToChange = one.state !== 'released' && one.end > now;
    return {
      id: String(one.id),
      eventId: seen.eventId,
      occurrence: seen.occurrence,
      start: one.start,
      end: one.end,
      placeId: one.resourceId,
      place: one.place,
      kind: one.kind,
      site: one.site,
      floor: one.floor,
      unit: one.unit,
      title: seen.title,
      holderId: seen.holder === null ? null : one.holderId,
      holder: seen.holder,
      state: one.state,
      others: isOpen && (one.inviteesList || mayChange(level)) ? one.others : null,
      mine: one.mine,
      canChange: isOpenToChange && (mayChange(level) || may(actor, 'change', one.resourceId)),
      version: isOpenToChange && mayChange(level) && one.others === 0 ? one.version : null,
    };
  });
}

/**
 * Everything a query asks for, read a part at a time while it is written out, so that a slow reader
 * holds no connection. Whatever changes meanwhile is as it is when its part is read.
 */
async function* ledgerRows(
  pool: Pool,
  actor: PersonActor,
  query: Searched,
  now: number,
): AsyncGenerator<LedgerRow[]> {
  for (let after: Cursor | null = null; ;) {
    const part = { after, limit: EXPORT_PAGE };
    const { found, rows } = await reading(pool, async (tx) => {
      const page = await readPage(tx, actor, query, part, now);
      return { found: page.rows, rows: await project(tx, actor, page.rows, now) };
    });
    yield rows;
    const last = found.at(-1);
    if (!last || found.length < EXPORT_PAGE) return;
    after = [last.sortedBy, last.start, String(last.id)];
  }
}

/** The columns and groups that are words of meetings and people. */
const WORDS: readonly string[] = ['title', 'holder'];
/** The other columns of which no index has the order. */
const UNORDERED: readonly string[] = ['length', 'state'];

type Asked = Searched & Partial<Pick<LedgerQuery, 'group' | 'in'>>;

/** What a question cannot be answered by an index for, of how many; null where it can. */
function readThrough(
  actor: PersonActor,
  query: Asked,
  now: number,
  most: number,
): { most: number; what: string } | null {
  const { q, sort, group } = query;
  if (q !== '' || WORDS.includes(group ?? '') || (isRows(query) && WORDS.includes(sort)))
    return { most, what: 'are not searched, sorted or put together by their words' };
  const isCounted = isRows(query)
    ? UNORDERED.includes(sort)
    : !isTallied(query, spanOf(actor, query, now), group!);
  return isCounted
    ? { most: MOST_COUNTED, what: 'are not sorted or put together in that way' }
    : null;
}

const isRows = (query: Asked) => query.group === undefined || query.in !== undefined;

/** @throws Refusal when a search, an order or groups would read through too many */
export async function refuseTooWide(
  db: Database,
  actor: PersonActor,
  query: Asked,
  now: number,
  most = MOST_READ_THROUGH,
): Promise<void> {
  const bound = readThrough(actor, query, now, most);
  if (!bound) return;
  // Mostly it is plain by what is kept that there are not so many.
  if ((await tallyOf(db, spanOf(actor, query, now), query)) <= bound.most) return;
  if ((await countRead(db, actor, query, bound.most, now)) > bound.most)
    throw tooMany(bound.most, bound.what);
}

/** @throws Refusal when there are more than are exported at once */
async function refuseTooMany(
  db: Database,
  actor: PersonActor,
  query: Searched,
  now: number,
): Promise<void> {
  const there = await countRows(db, actor, query, {}, MOST_EXPORTED, now);
  if (there > MOST_EXPORTED) throw tooMany(MOST_EXPORTED, 'are not written out at once');
}

/**
 * All rows that are asked for, a part at a time; each part is read by itself.
 * @throws Refusal when they are too many, or there is too much to be read through for them
 */
export async function exportedRows(
  pool: Pool,
  actor: PersonActor,
  query: LedgerExportQuery,
  now: number,
): Promise<AsyncGenerator<LedgerRow[]>> {
  const searched = await reading(pool, async (tx) => {
    const asked = { ...query, named: await readNamedBy(tx, query.q) };
    await refuseTooWide(tx, actor, asked, now);
    await refuseTooMany(tx, actor, asked, now);
    return asked;
  });
  return ledgerRows(pool, actor, searched, now);
}

const tooMany = (most: number, what: string): Refusal => {
  const many = most.toLocaleString('en');
  return new Refusal(
    'too-many-bookings',
    `More than ${many} bookings ${what}. Choose fewer days, one site or one kind of place.`,
    { fields: [{ field: 'from', message: `must leave at most ${many} bookings` }] },
  );
};

const writeCursor = (cursor: Cursor): string =>
  Buffer.from(JSON.stringify(cursor)).toString('base64url');

function readCursor(text: string, { sort }: Pick<LedgerQuery, 'sort'>): Cursor {
  const wrong = () => invalid([{ field: 'after', message: 'must be what an answer before gave' }]);
  let read: unknown;
  try {
    read = JSON.parse(Buffer.from(text, 'base64url').toString());
  } catch {
    throw wrong();
  }
  if (!Array.isArray(read) || read.length !== 3) throw wrong();
  const [value, start, id] = read as unknown[];
  if (typeof id !== 'string' || !/^\d{1,18}$/.test(id)) throw wrong();
  if (!isWhole(start, MOST.start)) throw wrong();
  if (sort === 'start' || sort === 'length') {
    if (!isWhole(value, MOST[sort])) throw wrong();
    return [value, start, id];
  }
  // eslint-disable-next-line no-control-regex -- they are what is looked for
  if (typeof value !== 'string' || /\u0000/.test(value)) throw wrong();
  return [value, start, id];
}

const isWhole = (value: unknown, most: number): value is number =>
  typeof value === 'number' && Number.isInteger(value) && Math.abs(value) <= most;

/** What a cursor can hold: an instant that a date can be of, minutes that a column can hold. */
const MOST = { start: 8_000_000_000_000, length: 2 ** 31 - 1 };

/**
 * Keeps how somebody looks at the ledger.
 * @throws Refusal when they keep too much already
 */
export async function keepView(
  tx: Transaction,
  { me }: PersonActor,
  request: LedgerViewRequest,
): Promise<{ id: number }> {
  const before = await readViews(tx, me.id);
  if (before.length >= MOST_VIEWS && !before.some((one) => one.name === request.name)) {
    throw new Refusal(
      'too-many-views',
      `At most ${MOST_VIEWS} views can be kept. Leave another one out first.`,
      { fields: [{ field: 'name', message: `may be one of at most ${MOST_VIEWS}` }] },
    );
  }
  return { id: await upsertView(tx, me.id, request) };
}

/** @throws Refusal when it is none of theirs */
export async function forgetView(tx: Transaction, { me }: PersonActor, id: number): Promise<void> {
  if (await deleteView(tx, me.id, id)) return;
  throw new Refusal('no-such-view', 'There is no such view.', {
    fields: [{ field: 'id', message: 'must be the number of a view you keep' }],
  });
}
