import { zoneCity } from '../../core/time/format.ts';

/** What a zone is called by those who work there: the city of their site, else the zone's own. */
export const placeName = (zone: string, names: Readonly<Record<string, string>>): string =>
  names[zone] ?? zoneCity(zone);
