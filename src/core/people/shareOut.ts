/** Whom something suits, of those who could have it. */
export interface Shared {
  id: string;
  /** Those to whom one of its next dates does not suit. */
  busy: ReadonlySet<number>;
}

/**
 * Shares things out among people: each to somebody whom it suits, and of those to whoever has the fewest by then;
 * where it suits nobody, to whoever has the fewest.
 * @param people in the order in which they are asked where several have as few
 * @returns whose each is, by its id; empty where there is nobody
 */
export function shareOut(
  things: readonly Shared[],
  people: readonly number[],
): Map<string, number> {
  const load = new Map(people.map((id) => [id, 0]));
  const whose = new Map<string, number>();
  for (const { id, busy } of things) {
    const suited = people.filter((person) => !busy.has(person));
    const among = suited.length > 0 ? suited : people;
    const [first, ...rest] = among;
    if (first === undefined) continue;
    const least = rest.reduce(
      (best, one) => (load.get(one)! < load.get(best)! ? one : best),
      first,
    );
    load.set(least, load.get(least)! + 1);
    whose.set(id, least);
  }
  return whose;
}
