import type {
  ChangeSiteRequest,
  DayOffRequest,
  NewSite,
  SiteDetail,
} from '../../contract/administration.ts';
import { MOST_HOLIDAYS } from '../../contract/limits.ts';
import { editsOf, takeEditsBack, type Values } from '../../core/edits.ts';
import {
  siteFactInWords,
  siteFieldNames,
  type SiteFactDetails,
} from '../../core/people/siteFacts.ts';
import type { Shift } from '../../core/time/workingHours.ts';
import { counted } from '../../core/counted.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import { requireAdministrator } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import {
  commitThings,
  type LoggedFact,
  type ThingHistory,
  type ThingRevision,
  type ThingsTakenBack,
} from '../facts/index.ts';
import type { Platform } from '../platform.ts';
import { lockHome } from './peopleQueries.ts';
import {
  insertSite,
  isSiteName,
  lockSite,
  nextFloors,
  putDayOff,
  readPlacesOnFloors,
  readSites,
  updateSite,
  writeFloors,
  writeHolidays,
} from './siteQueries.ts';

type SiteValues = Pick<SiteDetail, 'name' | 'city' | 'zone' | 'hours' | 'holidays' | 'floors'> & {
  isRemoved: boolean;
};

const valuesOf = ({ name, city, zone, hours, isRemoved, holidays, floors }: SiteValues): Values =>
  new Map<string, unknown>([
    ['name', name],
    ['city', city],
    ['zone', zone],
    ['hours', hours],
    ['isRemoved', isRemoved],
    ...holidays.map(({ date, name: called, part }): [string, unknown] => [
      `holiday/${date}`,
      part ? { name: called, part } : called,
    ]),
    ...floors.map(({ id, name: called }): [string, unknown] => [`floor/${id}`, called]),
    ['floors', floors.map(({ id }) => id)],
  ]);

const siteOf = (values: Values): SiteValues => ({
  name: values.get('name') as string,
  city: values.get('city') as string,
  zone: values.get('zone') as string,
  hours: values.get('hours') as SiteDetail['hours'],
  isRemoved: values.get('isRemoved') as boolean,
  floors: floorsOf(values),
  holidays: [...values].flatMap(([path, name]) =>
    path.startsWith('holiday/') && name !== null
      ? [{ date: path.slice('holiday/'.length), ...dayOff(name as DayOff) }]
      : [],
  ),
});

/** What a day off is, as it stands among a site's values: its name alone where all of it is off. */
type DayOff = string | { name: string; part: Shift };
const dayOff = (value: DayOff) => (typeof value === 'string' ? { name: value } : value);

/** Floors by their names, in the order that is kept beside them. */
function floorsOf(values: Values): SiteDetail['floors'] {
  const order = values.get('floors') as number[];
  const place = (id: number) => (order.includes(id) ? order.indexOf(id) : order.length);
  return [...values]
    .flatMap(([path, name]) =>
      path.startsWith('floor/') && name !== null
        ? [{ id: Number(path.slice('floor/'.length)), name: name as string }]
        : [],
    )
    .sort((a, b) => place(a.id) - place(b.id) || a.id - b.id);
}

/** Those among floors that are given up although places are there, or that would be called as another is. */
async function floorsInUse(
  tx: Transaction,
  siteId: number,
  before: SiteDetail['floors'],
  after: SiteDetail['floors'],
): Promise<Map<string, number>> {
  const kept = new Set(after.map(({ id }) => id));
  const gone = before.filter(({ id }) => !kept.has(id)).map(({ name }) => name);
  return gone.length > 0 ? readPlacesOnFloors(tx, siteId, gone) : new Map();
}

const nameTaken = () =>
  invalid([{ field: 'name', message: 'must not be the name of another site' }]);

/** Adds a site with its hours and holidays. @throws Refusal where another has its name */
export async function addSite(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  site: NewSite,
): Promise<{ id: number; change: number }> {
  const home = await lockHome(tx);
  if (await isSiteName(tx, site.name, null)) throw nameTaken();
  const id = await insertSite(tx, home.id, site);
  writeHolidays(tx, id, site.holidays);
  const [change] = await commitThings(tx, platform, actor, [
    {
      fact: { thing: 'site', thingId: id, kind: 'site-added', details: { name: site.name } },
      edits: [{ path: 'isRemoved', from: true, to: false }],
    },
  ]);
  return { id, change: change! };
}

/** Floors with their numbers: those that are there, and new ones. @throws Refusal where a number is no floor's here */
async function numbered(
  tx: Transaction,
  before: SiteDetail['floors'],
  wanted: NonNullable<ChangeSiteRequest['floors']>,
): Promise<SiteDetail['floors']> {
  const there = new Set(before.map(({ id }) => id));
  const wrong = wanted.flatMap(({ id }, k) =>
    id === undefined || there.has(id)
      ? []
      : [{ field: `floors.${k}.id`, message: 'must be the number of a floor of this site' }],
  );
  if (wrong.length > 0) throw invalid(wrong);
  const fresh = await nextFloors(tx, wanted.filter(({ id }) => id === undefined).length);
  let next = 0;
  return wanted.map(({ id, name }) => ({ id: id ?? fresh[next++]!, name }));
}

/** Changes a site. @throws Refusal when it was changed meanwhile, or another has its name */
export async function changeSite(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
  { version, ...change }: ChangeSiteRequest,
): Promise<{ version: number; change: number | null }> {
  await lockHome(tx);
  const before = await lockSite(tx, id);
  if (!before || before.isRemoved)
    throw new Refusal('no-such-site', 'There is no such site.', {
      fields: [{ field: 'id', message: 'must be the number of a site' }],
    });
  if (before.version !== version)
    throw new Refusal('stale', 'This site was changed meanwhile; look at it again.', {
      fields: [{ field: 'version', message: `must be ${before.version}, the present version` }],
    });
  const given = Object.fromEntries(
    Object.entries(change).filter(([, value]) => value !== undefined),
  );
  const floors = change.floors && (await numbered(tx, before.floors, change.floors));
  const after = { ...before, ...given, ...(floors && { floors }) };
  if (await isSiteName(tx, after.name, id)) throw nameTaken();
  const edits = editsOf(valuesOf(before), valuesOf(after));
  if (edits.length === 0) return { version, change: null };
  const [inUse] = await floorsInUse(tx, id, before.floors, after.floors);
  if (inUse)
    throw invalid([
      {
        field: 'floors',
        message: `must keep floor ${inUse[0]}, where ${counted(inUse[1], 'place is', 'places are')}`,
      },
    ]);
  updateSite(tx, id, after, platform.clock.now());
  if (floors) writeFloors(tx, id, before.floors, after.floors);
  if (change.holidays) writeHolidays(tx, id, after.holidays);
  const [number = null] = await commitThings(tx, platform, actor, [
    {
      fact: {
        thing: 'site',
        thingId: id,
        kind: 'site-changed',
        details: { name: before.name, edits },
      },
      edits,
    },
  ]);
  return { version: version + 1, change: number };
}

/**
 * A day off for every site: a company day. Where one has something that day already, it is put in its place.
 * @throws Refusal where a site has as many days off as there may be
 */
export async function addDayOff(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  day: DayOffRequest,
): Promise<{ sites: number; changes: number[] }> {
  await lockHome(tx);
  const sites = await readSites(tx);
  const full = sites.find(
    ({ holidays }) =>
      holidays.length >= MOST_HOLIDAYS && !holidays.some(({ date }) => date === day.date),
  );
  if (full)
    throw invalid([
      { field: 'date', message: `must leave ${full.name} at most ${MOST_HOLIDAYS} holidays` },
    ]);
  const changed = sites.flatMap((site) => {
    const holidays = [...site.holidays.filter(({ date }) => date !== day.date), day];
    const edits = editsOf(
      valuesOf({ ...site, isRemoved: false }),
      valuesOf({ ...site, isRemoved: false, holidays }),
    );
    return edits.length > 0 ? [{ site, edits }] : [];
  });
  putDayOff(
    tx,
    changed.map(({ site }) => site.id),
    day,
  );
  const changes = await commitThings(
    tx,
    platform,
    actor,
    changed.map(({ site: { id, name }, edits }) => ({
      fact: { thing: 'site', thingId: id, kind: 'site-changed', details: { name, edits } },
      edits,
    })),
  );
  return { sites: changed.length, changes: changes.flatMap((one) => one ?? []) };
}

/** How what was done to sites is said, and taken back. */
export const siteHistory: ThingHistory = { thing: 'site', say, takeBack };

async function say(
  _db: Database,
  actor: PersonActor,
  facts: readonly LoggedFact[],
): Promise<string[]> {
  requireAdministrator(actor);
  return facts.map(({ kind, details }) =>
    siteFactInWords(
      kind as keyof SiteFactDetails,
      details as unknown as SiteFactDetails['site-changed'],
    ),
  );
}

async function takeBack(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  revisions: readonly ThingRevision[],
): Promise<ThingsTakenBack> {
  requireAdministrator(actor);
  await lockHome(tx);
  const [left, done]: [string[], number[]] = [[], []];
  const inUse = new Map((await readSites(tx)).map((one) => [one.id, one.people + one.places]));
  // Sites are few, and seldom more than one is changed at once.
  for (const { id, thingId, edits } of revisions) {
    const before = await lockSite(tx, thingId);
    if (!before) continue;
    const taken = takeEditsBack(valuesOf(before), edits);
    const after = siteOf(taken.values);
    left.push(
      ...siteFieldNames(taken.left).map((field) => `${field} of ${before.name}, changed since`),
    );
    if (taken.left.length === edits.length) continue;
    if (after.isRemoved && !before.isRemoved && (inUse.get(thingId) ?? 0) > 0) {
      left.push(`${before.name}, where somebody or something is by now`);
      continue;
    }
    if (after.name !== before.name && (await isSiteName(tx, after.name, thingId))) {
      left.push(`${before.name}, whose former name is another site’s by now`);
      continue;
    }
    const [inUseStill] = await floorsInUse(tx, thingId, before.floors, after.floors);
    if (inUseStill) {
      left.push(`floor ${inUseStill[0]} of ${before.name}, where places are by now`);
      continue;
    }
    const names = after.floors.map(({ name }) => name.toLowerCase());
    if (new Set(names).size < names.length) {
      left.push(`floors of ${before.name}, of which two would be called the same`);
      continue;
    }
    updateSite(tx, thingId, after, platform.clock.now());
    writeFloors(tx, thingId, before.floors, after.floors);
    writeHolidays(tx, thingId, after.holidays);
    await commitThings(tx, platform, actor, [
      {
        fact: {
          ...{ thing: 'site', thingId, kind: 'site-changed' },
          details: { name: before.name, edits: editsOf(valuesOf(before), valuesOf(after)) },
        },
      },
    ]);
    done.push(id);
  }
  return { done, left, meetings: { undone: 0, partly: 0, left: 0 } };
}
