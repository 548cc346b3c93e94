import type { Values } from '../edits.ts';

/**
 * What a steward looks after: a place, or all that are at a site, on a floor of it, of a kind, or several of these
 * together. What is null is not asked for.
 */
export interface Charge {
  siteId: number | null;
  floor: string | null;
  kind: string | null;
  placeId: number | null;
}

/** What somebody looks after and for whom they plan, as an administrator settles it. */
export interface ReachValues {
  /** None means every place there is, for a steward. */
  reach: readonly Charge[];
  /** Who stands in for a steward. */
  deputyId: number | null;
  /** Teams for whose people somebody plans and answers. */
  coordinates: readonly number[];
}

const keyOf = ({ siteId, floor, kind, placeId }: Charge): string =>
  [siteId ?? 0, floor ?? '', kind ?? '', placeId ?? 0].join('|');

/** Charges in one order, each once. */
export const inOrder = (reach: readonly Charge[]): Charge[] =>
  [...new Map(reach.map((one) => [keyOf(one), one])).values()]
    .map(({ siteId, floor, kind, placeId }) => ({ siteId, floor, kind, placeId }))
    .sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : 1));

export const valuesOfReach = ({
  reach,
  deputyId,
  coordinates,
}: ReachValues): [string, unknown][] => [
  ['reach', inOrder(reach)],
  ['deputyId', deputyId],
  ['coordinates', [...coordinates].sort((a, b) => a - b)],
];

export const reachOfValues = (values: Values): ReachValues => ({
  reach: values.get('reach') as Charge[],
  deputyId: values.get('deputyId') as number | null,
  coordinates: values.get('coordinates') as number[],
});

/** Somebody as they are to be: who is no steward looks after nothing, and needs no deputy. */
export const settled = <Person extends ReachValues & { role: string }>(person: Person): Person =>
  person.role === 'steward' ? person : { ...person, reach: [], deputyId: null };

/** Kinds of places, many of them. */
export const KIND_WORDS: Record<string, string> = {
  room: 'rooms',
  lab: 'labs',
  desk: 'desks',
  equipment: 'equipment',
  vehicle: 'vehicles',
  parking: 'parking',
};

/** What is looked after, in words: `Gannet`, `labs on floor 2 of Skerry House`, `all of Bluff Station`. */
export function chargeInWords(
  { siteId, floor, kind, placeId }: Charge,
  nameOf: (what: 'site' | 'place', id: number) => string,
): string {
  if (placeId !== null) return nameOf('place', placeId);
  const what = kind === null ? '' : (KIND_WORDS[kind] ?? kind);
  if (siteId === null) return what;
  const site = nameOf('site', siteId);
  if (floor === null) return what ? `${what} at ${site}` : `all of ${site}`;
  return `${what ? `${what} on ` : ''}floor ${floor} of ${site}`;
}
