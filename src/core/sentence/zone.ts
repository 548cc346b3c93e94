import { ZONES } from '../time/zones.ts';
import type { SentenceNames } from './meaning.ts';
import { longest, type Placed, type Reading } from './words.ts';

/** The zone that a city or a zone's own name means; null where it means none. */
function zoneNamed(text: string, { sites }: SentenceNames): { zone: string; place: string } | null {
  const wanted = text.toLowerCase();
  if (/^(utc|gmt)$/.test(wanted)) return { zone: 'UTC', place: 'UTC' };
  const site = sites.find(({ city, name }) =>
    [city, name].some((one) => one.toLowerCase() === wanted),
  );
  if (site) return { zone: site.zone, place: site.city };
  const cityOf = (zone: string) => zone.slice(zone.lastIndexOf('/') + 1).replaceAll('_', ' ');
  const zone = ZONES.find((one) => cityOf(one).toLowerCase() === wanted);
  return zone === undefined ? null : { zone, place: cityOf(zone) };
}

/** "9am Hobart time", "10:00 UTC": on whose clock a time was said. */
export function readZone({ words }: Reading, names: SentenceNames, found: Placed[]): void {
  const time = found.find(({ chip }) => chip.kind === 'time');
  if (time?.chip.kind !== 'time') return;
  for (let at = 0; at < words.length; at++) {
    const run = longest(words, at, 4, (text) => {
      const match = /^(.+) time$/i.exec(text) ?? /^(utc|gmt)$/i.exec(text);
      return match && zoneNamed(match[1]!, names);
    });
    if (!run) continue;
    for (const word of words.slice(at, at + run.count)) word.taken = true;
    const { zone, place } = run.value;
    time.chip = { ...time.chip, zone, place, words: `${time.chip.words} ${run.text}` };
    return;
  }
}
