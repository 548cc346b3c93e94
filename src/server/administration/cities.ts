import cityTimezones from 'city-timezones';
import { plainLetters } from '../../core/plainLetters.ts';
import { isZone } from '../../core/time/zones.ts';

/** The zone of the largest city of each name, by the name in plain letters; made when it is first asked for. */
let zones: Map<string, string> | null = null;

function zonesOfCities(): Map<string, string> {
  const found = new Map<string, string>();
  for (const one of [...cityTimezones.cityMapping].sort((a, b) => b.pop - a.pop))
    for (const name of [one.city, one.city_ascii]) {
      const plain = plainLetters(name);
      if (!found.has(plain) && isZone(one.timezone)) found.set(plain, one.timezone);
    }
  return found;
}

/** The zone of the largest city of a name; null where none is known. */
export function zoneOfCity(name: string): string | null {
  zones ??= zonesOfCities();
  return zones.get(plainLetters(name)) ?? null;
}
