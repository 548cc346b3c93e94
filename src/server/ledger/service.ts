import {
  COUNTED,
  MOST_EXPORTED,
  MOST_GROUPS,
  MOST_VIEWS,
  type LedgerColumn,
  type LedgerExportQuery,
  type LedgerGroup,
  type LedgerQuery,
  type LedgerResponse,
  type LedgerRow,
  type LedgerViewRequest,
} from '../../contract/ledger.ts';
import { eventLevel, mayChange, showsEverything } from '../../core/availability/busy.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { Levels, projectBooking } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Pool } from 'pg';
import { transaction, type Database, type Transaction } from '../db/transaction.ts';
import { readSites } from '../places/index.ts';
import {
  countRows,
  deleteView,
  readGroups,
  readNamedBy,
  readRows,
  readViews,
  upsertView,
  type Cursor,
  type LedgerEntry,
} from './queries.ts';

/** Enough to bring two hundred thousand bookings and their dates together without a file. */
const WORK_MEM = '16MB';

/**
 * Reads the ledger as its questions are: from when to when decides which way is the shortest, so that
 * each is planned by itself and not once for all. What it reads is mostly in memory, where going to a row
 * costs little more than coming past it.
 */
export const reading = <T>(pool: Pool, work: (tx: Transaction) => Promise<T>): Promise<T> =>
  transaction(pool, (tx) => {
    tx.send('set local plan_cache_mode = force_custom_plan');
    tx.send('set local random_page_cost = 1.1');
    tx.send('set local jit = off');
    tx.send(`set local work_mem = '${WORK_MEM}'`);
    return work(tx);
  });

/**
 * A page of the ledger, or its groups.
 * @throws Refusal for a cursor that no answer gave, and for words looked for among too many
 */
export async function ledgerPage(
  db: Database,
  actor: PersonActor,
  query: LedgerQuery,
  now: number,
): Promise<LedgerResponse> {
  const { group, after, limit } = query;
  const part = { group, in: query.in };
  const isGroups = group !== undefined && query.in === undefined;
  const cursor = after === undefined ? null : readCursor(after, query);
  await refuseTooWide(db, actor, query, now);
  const searched = { ...query, named: await readNamedBy(db, query.q) };
  const [found, groups, sites] = await Promise.all([
    isGroups
      ? []
      : readRows(
          db,
          actor,
          searched,
          { ...part, after: cursor, limit: limit + 1, counts: true },
          now,
        ),
    isGroups ? readGroups(db, actor, searched, group, now) : [],
    readSites(db),
  ]);
  const isNothing = found.length === 0 && cursor === null;
  const total = isGroups
    ? groups.reduce((sum, one) => sum + one.bookings, 0)
    : isNothing
      ? 0
      : (found[0]?.total ?? (await countRows(db, actor, searched, part, COUNTED, now)));
  const shown = found.slice(0, limit);
  const last = shown.at(-1);
  return {
    rows: await project(db, actor, shown, now),
    next: found.length > limit && last ? writeCursor([last.sortedBy, String(last.id)]) : null,
    total: isGroups ? total : Math.min(total, COUNTED),
    isMore: isGroups ? groups.length === MOST_GROUPS : total > COUNTED,
    groups: groups.map((one) => ({ ...one, minutes: Math.round(one.minutes) })),
    sites: sites.map(({ id, name }) => ({ id, name })),
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
  const looksAfter = actor.me.role !== 'staff';
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
      canChange: isOpenToChange && (mayChange(level) || looksAfter),
      version: isOpenToChange && mayChange(level) && one.others === 0 ? one.version : null,
    };
  });
}

/** How many rows of an export are read at once. */
const EXPORT_PAGE = 1_000;

/**
 * Everything a query asks for, read a part at a time while it is written out, so that a slow reader
 * holds no connection. Whatever changes meanwhile is as it is when its part is read.
 */
export async function* ledgerRows(
  pool: Pool,
  actor: PersonActor,
  query: LedgerExportQuery,
  now: number,
): AsyncGenerator<LedgerRow[]> {
  const searched = {
    ...query,
    named: await reading(pool, (tx) => readNamedBy(tx, query.q)),
  };
  for (let after: Cursor | null = null; ;) {
    const part = { after, limit: EXPORT_PAGE, counts: false };
    const { found, rows } = await reading(pool, async (tx) => {
      const entries = await readRows(tx, actor, searched, part, now);
      return { found: entries, rows: await project(tx, actor, entries, now) };
    });
    yield rows;
    const last = found.at(-1);
    if (!last || found.length < EXPORT_PAGE) return;
    after = [last.sortedBy, String(last.id)];
  }
}

/** As many bookings as are read through for their words, which no index has in order. */
const MOST_READ_THROUGH = 200_000;

const isByWords = (one: LedgerColumn | LedgerGroup | undefined) =>
  one === 'title' || one === 'holder';

/** @throws Refusal when a search, an order or groups by words would read through too many */
export async function refuseTooWide(
  db: Database,
  actor: PersonActor,
  query: LedgerExportQuery & { group?: LedgerGroup | undefined },
  now: number,
  most = MOST_READ_THROUGH,
): Promise<void> {
  if (query.q === '' && !isByWords(query.sort) && !isByWords(query.group)) return;
  const what = 'are not searched, sorted or put together by their words';
  await refuseMoreThan(db, actor, { ...query, q: '' }, most, now, what);
}

/** @throws Refusal when there are more than are exported at once */
export const refuseTooMany = (
  db: Database,
  actor: PersonActor,
  query: LedgerExportQuery,
  now: number,
): Promise<void> =>
  refuseMoreThan(db, actor, query, MOST_EXPORTED, now, 'are not written out at once');

async function refuseMoreThan(
  db: Database,
  actor: PersonActor,
  query: LedgerExportQuery,
  most: number,
  now: number,
  what: string,
): Promise<void> {
  const searched = { ...query, named: await readNamedBy(db, query.q) };
  if ((await countRows(db, actor, searched, {}, most, now)) <= most) return;
  const many = most.toLocaleString('en');
  throw new Refusal(
    'too-many-bookings',
    `More than ${many} bookings ${what}. Choose fewer days, one site or one kind of place.`,
    { fields: [{ field: 'from', message: `must leave at most ${many} bookings` }] },
  );
}

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
  if (!Array.isArray(read) || read.length !== 2) throw wrong();
  const [value, id] = read as [unknown, unknown];
  if (typeof id !== 'string' || !/^\d{1,18}$/.test(id)) throw wrong();
  if (sort === 'start' || sort === 'length') {
    if (typeof value !== 'number' || !Number.isInteger(value) || Math.abs(value) > MOST[sort])
      throw wrong();
    return [value, id];
  }
  // eslint-disable-next-line no-control-regex -- they are what is looked for
  if (typeof value !== 'string' || /\u0000/.test(value)) throw wrong();
  return [value, id];
}

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
