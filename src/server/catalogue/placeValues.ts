import type { NewPlace } from '../../contract/catalogue.ts';
import type { PlaceRules } from '../../core/booking/rules.ts';
import { allRules } from '../../core/booking/rules.ts';
import type { Values } from '../../core/edits.ts';
import type { KeptPlace } from './queries.ts';

const OF_RULES = 'rules/';
/** What of a place is changed besides what its form says. */
export type PlaceStanding = Pick<KeptPlace, 'ownerId' | 'isRetired'>;

/** A place as single values by their paths, each rule by itself. */
export function valuesOfPlace({
  rules,
  ...rest
}: Omit<NewPlace, 'rules'> & PlaceStanding & { rules: KeptPlace['rules'] }): Values {
  const { name, kind, siteId, floor, capacity, units, description, features } = rest;
  const { prepareMinutes, clearMinutes, ownerId, isRetired } = rest;
  const { assigned: _assigned, ...bounds } = allRules(rules);
  return new Map<string, unknown>([
    ...Object.entries({ name, kind, siteId, floor, capacity, units, description, features }),
    ...Object.entries({ prepareMinutes, clearMinutes, ownerId, isRetired }),
    ...Object.entries(bounds).map(([rule, bound]): [string, unknown] => [OF_RULES + rule, bound]),
  ]);
}

/** The place that some values make. */
export function placeOfValues(values: Values): NewPlace & PlaceStanding {
  const of = (wanted: (path: string) => boolean, from: number) =>
    Object.fromEntries(
      [...values].flatMap(([path, value]) => (wanted(path) ? [[path.slice(from), value]] : [])),
    );
  const rules = of((path) => path.startsWith(OF_RULES), OF_RULES.length) as unknown as PlaceRules;
  const facts = of((path) => !path.includes('/'), 0) as unknown as Omit<NewPlace, 'rules'> &
    PlaceStanding;
  return { ...facts, rules };
}
