/* A booking that nobody gave a title is called by its places, and by its new ones once it has others. */

const BOOKED = ' booked';
const LONGEST = 200;

/** What a booking of some places is called that was given no title. */
export const titleOfBooking = (places: readonly string[]): string =>
  places.join(', ').slice(0, LONGEST - BOOKED.length) + BOOKED;

/** Whether a title may be that of a booking which was given none. */
export const isTitleOfBooking = (title: string): boolean => title.endsWith(BOOKED);

/**
 * What a booking is called once it has other places: a title that was made of those it had is made anew, and any
 * other stays as it is.
 * @param gone names of places that it has no more
 * @param come names of those it has instead
 */
export function retitled(title: string, gone: readonly string[], come: readonly string[]): string {
  if (!isTitleOfBooking(title) || gone.length === 0) return title;
  const names = title.slice(0, -BOOKED.length).split(', ');
  if (!gone.every((name) => names.includes(name))) return title;
  const at = names.indexOf(gone[0]!);
  const stay = (name: string) => !gone.includes(name) && !come.includes(name);
  const next = [...names.slice(0, at).filter(stay), ...come, ...names.slice(at).filter(stay)];
  return next.length > 0 ? titleOfBooking(next) : title;
}
