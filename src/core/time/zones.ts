import { GEOGRAPHIC_ZONES } from './zoneNames.ts';

/**
 * The time zones that a time can be given in, in alphabetical order by area: the geographic ones by the names
 * under which the zone database lists them (zone.tab), and UTC. PostgreSQL, Temporal and programs that
 * receive invitations know all of these; of older names, some know some.
 */
export const ZONES: readonly string[] = [...GEOGRAPHIC_ZONES, 'UTC'];

const known = new Set(ZONES);

/** Whether a time can be given in a zone. */
export const isZone = (zone: string): boolean => known.has(zone);

/** The zone that a system calls by some name, an older one perhaps; UTC where it is none of these. */
export function zoneCalled(name: string): string {
  if (isZone(name)) return name;
  const canonical = (zone: string): string | null => {
    try {
      return new Intl.DateTimeFormat('en', { timeZone: zone }).resolvedOptions().timeZone;
    } catch {
      return null;
    }
  };
  const asked = canonical(name);
  return (asked !== null && ZONES.find((zone) => canonical(zone) === asked)) || 'UTC';
}
