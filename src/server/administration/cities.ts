import cityTimezones from 'city-timezones';
import { plainLetters } from '../../core/plainLetters.ts';
import { isZone } from '../../core/time/zones.ts';

/** The zone of the largest city of a name; null where none is known. */
export function zoneOfCity(name: string): string | null {
  const wanted = plainLetters(name);
  const [largest] = cityTimezones.cityMapping
    .filter(
      ({ city, city_ascii: plain }) =>
        plainLetters(city) === wanted || plainLetters(plain) === wanted,
    )
    .sort((a, b) => b.pop - a.pop);
  return largest && isZone(largest.timezone) ? largest.timezone : null;
}
