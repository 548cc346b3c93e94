import type { ChangePeopleRequest } from '../../contract/administration.ts';
import { invalid } from '../../core/refusal.ts';
import type { Transaction } from '../db/transaction.ts';
import { MOST_NAMED_WRONG } from './limits.ts';
import { readNames, type KeptPerson } from './peopleQueries.ts';

type PeopleChange = ChangePeopleRequest['change'];

/** @throws Refusal where a change names a site, team, place or person that is none */
export async function refuseNotThere(
  tx: Transaction,
  { siteId, into = [], outOf = [], coordinates = [], reach = [], deputyId }: PeopleChange,
): Promise<void> {
  const names = await readNames(tx, {
    sites: [siteId ?? [], ...reach.map((one) => one.siteId ?? [])].flat(),
    teams: [...into, ...outOf, ...coordinates],
    places: reach.flatMap(({ placeId }) => placeId ?? []),
    people: deputyId ? [deputyId] : [],
  });
  const isThere = (what: string, id: number | null | undefined) =>
    id === null || id === undefined || names.has(`${what} ${id}`);
  const wrong = [
    ...(isThere('site', siteId) ? [] : [['siteId', 'must be the number of a site']]),
    ...Object.entries({ into, outOf, coordinates })
      .filter(([, teams]) => teams.some((team) => !isThere('team', team)))
      .map(([field]) => [field, 'must be numbers of teams']),
    ...reach.flatMap(({ siteId: at, placeId }, k) => [
      ...(isThere('site', at) ? [] : [[`reach.${k}.siteId`, 'must be the number of a site']]),
      ...(isThere('place', placeId)
        ? []
        : [[`reach.${k}.placeId`, 'must be the number of a place']]),
    ]),
    ...(isThere('person', deputyId)
      ? []
      : [['deputyId', 'must be the number of somebody who is here']]),
  ];
  if (wrong.length > 0)
    throw invalid(
      wrong
        .slice(0, MOST_NAMED_WRONG)
        .map(([field, message]) => ({ field: `change.${field}`, message: message! })),
    );
}

/** @throws Refusal where what stewards alone have is given to others, or somebody stands in for themselves */
export function refuseOtherReach(change: PeopleChange, after: readonly KeptPerson[]): void {
  for (const field of ['reach', 'deputyId'] as const)
    if (hasSome(change[field]) && after.some(({ role }) => role !== 'steward'))
      throw invalid([{ field: `change.${field}`, message: 'must be of stewards alone' }]);
  if (change.deputyId && after.some(({ id }) => id === change.deputyId))
    throw invalid([{ field: 'change.deputyId', message: 'must be somebody else' }]);
}

const hasSome = (value: readonly unknown[] | number | null | undefined): boolean =>
  Array.isArray(value) ? value.length > 0 : value !== null && value !== undefined;
