import type { LoadedOrganization } from './load.ts';
import { PARTNER_PEOPLE, PARTNER_SITE, PEOPLE, RESOURCES, SITES } from './organization.ts';

/** The demonstration's people and places with ids as the database might give them, for tests of what is made up. */
export function organization(): LoadedOrganization {
  const weekdays = [1, 2, 3, 4, 5];
  let id = 0;
  const home = PEOPLE.flatMap((group, site) =>
    group.map((person) => ({
      weekdays,
      hours: SITES[site]!.hours,
      ...person,
      id: ++id,
      email: `${id}@ternrock.example`,
      zone: SITES[site]!.zone,
      site,
    })),
  );
  const partners = PARTNER_PEOPLE.map(({ name }) => ({
    id: ++id,
    name,
    email: `${id}@nilgiriwater.example`,
    zone: PARTNER_SITE.zone,
    site: null,
    team: null,
    hours: PARTNER_SITE.hours,
    weekdays,
  }));
  return {
    people: [...home, ...partners],
    resources: RESOURCES.map((resource) => ({ ...resource, id: ++id })),
  };
}
