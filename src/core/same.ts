/** Whether two plain values say the same, in whatever order their keys stand; null and undefined do. */
export function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (a === null || b === null || typeof a !== 'object' || typeof b !== 'object') {
    return (a ?? null) === (b ?? null);
  }
  if (Array.isArray(a) || Array.isArray(b)) {
    return (
      Array.isArray(a) &&
      Array.isArray(b) &&
      a.length === b.length &&
      a.every((one, k) => same(one, b[k]))
    );
  }
  return saysAll(a, b) && saysAll(b, a);
}

/** Whether one value says all that another does; a key that says undefined is none. */
const saysAll = (a: object, b: object): boolean =>
  Object.entries(b).every(
    ([key, value]) =>
      value === undefined ||
      (Object.hasOwn(a, key) &&
        (a as Record<string, unknown>)[key] !== undefined &&
        same((a as Record<string, unknown>)[key], value)),
  );
