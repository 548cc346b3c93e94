import type { ChangeSiteRequest, NewSite, SiteDetail } from '../../contract/administration.ts';
import { editsOf, takeEditsBack, type Values } from '../../core/edits.ts';
import {
  siteFactInWords,
  siteFieldNames,
  type SiteFactDetails,
} from '../../core/people/siteFacts.ts';
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
  readSites,
  updateSite,
  writeHolidays,
} from './siteQueries.ts';

type SiteValues = Pick<SiteDetail, 'name' | 'city' | 'zone' | 'hours' | 'holidays'> & {
  isRemoved: boolean;
};

const valuesOf = ({ name, city, zone, hours, isRemoved, holidays }: SiteValues): Values =>
  new Map<string, unknown>([
    ['name', name],
    ['city', city],
    ['zone', zone],
    ['hours', hours],
    ['isRemoved', isRemoved],
    ...holidays.map(({ date, name: called }): [string, unknown] => [`holiday/${date}`, called]),
  ]);

const siteOf = (values: Values): SiteValues => ({
  name: values.get('name') as string,
  city: values.get('city') as string,
  zone: values.get('zone') as string,
  hours: values.get('hours') as SiteDetail['hours'],
  isRemoved: values.get('isRemoved') as boolean,
  holidays: [...values].flatMap(([path, name]) =>
    path.startsWith('holiday/') && name !== null
      ? [{ date: path.slice('holiday/'.length), name: name as string }]
      : [],
  ),
});

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
  const after = { ...before, ...given };
  if (await isSiteName(tx, after.name, id)) throw nameTaken();
  const edits = editsOf(valuesOf(before), valuesOf(after));
  if (edits.length === 0) return { version, change: null };
  updateSite(tx, id, after, platform.clock.now());
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
    updateSite(tx, thingId, after, platform.clock.now());
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
