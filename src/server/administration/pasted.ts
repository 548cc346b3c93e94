import type { PeopleRead, ReadPeopleRequest } from '../../contract/administration.ts';
import { addressKey } from '../../core/mailAddress.ts';
import { readPasted, type PastedPerson } from '../../core/people/pastedPeople.ts';
import { plainLetters } from '../../core/plainLetters.ts';
import { invalid } from '../../core/refusal.ts';
import type { Database } from '../db/transaction.ts';
import { zoneOfCity } from './cities.ts';
import { readByAddress } from './peopleQueries.ts';
import { readSites } from './siteQueries.ts';

/**
 * What a text of addresses says: who, at which site and by which clock, and whether they are here already. It
 * changes nothing.
 * @throws Refusal where the site is none
 */
export async function readPeople(
  db: Database,
  { text, siteId }: ReadPeopleRequest,
): Promise<PeopleRead> {
  const read = readPasted(text);
  const sites = await readSites(db);
  const usual = siteId === undefined ? sites[0] : sites.find(({ id }) => id === siteId);
  if (siteId !== undefined && !usual)
    throw invalid([{ field: 'siteId', message: 'must be the number of a site' }]);
  const placed = (one: Pick<PastedPerson, 'name' | 'isNameGuessed' | 'email' | 'remark'>) => {
    const { remark, name, isNameGuessed, email } = one;
    const person = { name, isNameGuessed, email };
    const own = { siteId: usual?.id ?? null, zone: usual?.zone ?? 'UTC', isPlaceGuessed: false };
    if (!remark) return { ...person, ...own };
    const said = plainLetters(remark);
    const site = sites.find(
      ({ name: called, city }) => plainLetters(called) === said || plainLetters(city) === said,
    );
    if (site) return { ...person, siteId: site.id, zone: site.zone, isPlaceGuessed: true };
    const zone = zoneOfCity(remark);
    return zone ? { ...person, siteId: null, zone, isPlaceGuessed: true } : { ...person, ...own };
  };
  const here = new Map(
    (
      await readByAddress(
        db,
        read.people.map(({ email }) => email),
      )
    ).map((one) => [addressKey(one.email), one]),
  );
  const standing = (email: string) => {
    const one = here.get(addressKey(email));
    if (!one) return null;
    if (!one.isHome) return 'elsewhere' as const;
    if (one.account === 'removed') return null;
    return one.account === 'ended' ? ('left' as const) : ('present' as const);
  };
  return {
    lines: read.lines,
    people: read.people.map((one) => ({
      line: one.line,
      ...placed(one),
      here: standing(one.email),
    })),
    doubts: read.doubts.map(({ mend, ...doubt }) => ({ ...doubt, mend: mend && placed(mend) })),
    nobody: read.nobody,
  };
}
