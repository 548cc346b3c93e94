/** A value as text that is the same for the same value, in whatever order its keys stand. */
const canonical = (value: unknown): string =>
  JSON.stringify(value, (_, part: unknown) =>
    part !== null && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  ) ?? 'null';

/** Whether two plain values say the same; null and undefined do. */
export const same = (a: unknown, b: unknown): boolean =>
  canonical(a ?? null) === canonical(b ?? null);
