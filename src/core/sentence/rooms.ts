import { numberOf } from '../time/numberWords.ts';
import { MOST_WORDS, placeNamed, type SentenceNames } from './meaning.ts';
import { longest, type Reading } from './words.ts';

/** "in a room with video for 8", "a room in Bergen". */
export function readRooms({ words, take }: Reading, names: SentenceNames): void {
  words.forEach((word, at) => {
    if (word.taken || !/^rooms?$/i.test(word.text)) return;
    const textAt = (k: number) => (words[k] && !words[k].taken ? words[k].text : '');
    let first = at;
    if (/^(meeting|conference)$/i.test(textAt(first - 1))) first--;
    const hasArticle = /^(an?|any|one)$/i.test(textAt(first - 1));
    if (hasArticle) first--;
    // "…with Hal, room for 6": by itself it is a room where it can be no part of what a meeting is called.
    else if (!isApart(words, first)) return;
    if (/^(in|at|@)$/i.test(textAt(first - 1))) first--;
    const room = {
      siteId: null as number | null,
      features: [] as string[],
      seats: null as number | null,
    };
    let place = '';
    let next = at + 1;
    for (let isRead = true; isRead;) {
      isRead = false;
      if (/^(in|at)$/i.test(textAt(next))) {
        const site = longest(words, next + 1, MOST_WORDS, (text) => placeNamed(text, names, {}));
        if (site?.value.kind === 'site' && room.siteId === null) {
          room.siteId = site.value.site.id;
          place = site.value.site.name;
          next += 1 + site.count;
          isRead = true;
        }
      }
      const hasLead = /^(with|w\/|and|,|&|\+)$/i.test(textAt(next));
      const isFirst = /^(with|w\/)$/i.test(textAt(next));
      if (hasLead && (isFirst || room.features.length > 0)) {
        const article = /^(an?|the)$/i.test(textAt(next + 1)) ? 1 : 0;
        const feature = longest(words, next + 1 + article, 3, (text) => featureNamed(text, names));
        if (feature) {
          room.features.push(feature.value);
          next += 1 + article + feature.count;
          isRead = true;
        }
      }
      const seats = /^for$/i.test(textAt(next)) ? numberOf(textAt(next + 1)) : NaN;
      if (room.seats === null && seats >= 1) {
        room.seats = seats;
        next += /^(people|persons?|seats?)$/i.test(textAt(next + 2)) ? 3 : 2;
        isRead = true;
      }
    }
    if (!hasArticle && next === at + 1) return;
    const said = words
      .slice(first, next)
      .map((one) => one.text)
      .join(' ');
    take(first, next - first, { kind: 'room', words: said, ...room, name: roomName(place, room) });
  });
}

/** Whether what stands at a position is none of the words before it: after a comma, a time, or a name. */
function isApart(words: Reading['words'], at: number): boolean {
  const before = words[at - 1];
  if (!before) return false;
  if (before.taken || /^[,;&+]$|^(and|plus|with|w\/)$/i.test(before.text)) return true;
  return words.slice(0, at).some(({ text }) => /^(with|w\/)$/i.test(text));
}

const featureNamed = (text: string, { features }: SentenceNames): string | null => {
  const wanted = text.toLowerCase();
  return (
    features.find((one) => {
      const name = one.toLowerCase();
      return name === wanted || `${name}s` === wanted;
    }) ?? null
  );
};

const roomName = (
  place: string,
  { features, seats }: { features: readonly string[]; seats: number | null },
): string =>
  [
    place ? `a room in ${place}` : 'a room at each site',
    features.length > 0 && `with ${features.join(' and ')}`,
    seats !== null && `for ${seats}`,
  ]
    .filter(Boolean)
    .join(' ');
