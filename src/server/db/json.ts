/** Instants and wall times as JSON built in SQL carries them: as everywhere else in Marmot. */

/** Epoch milliseconds, or null. */
export const instantJson = (column: string): string =>
  `(extract(epoch from ${column}) * 1000)::float8`;

/** `YYYY-MM-DDTHH:mm`, or null. */
export const wallTimeJson = (column: string): string =>
  `to_char(${column}, 'YYYY-MM-DD"T"HH24:MI')`;

/** An instant for JSON that SQL reads. */
export const isoInstant = (instant: number | null): string | null =>
  instant === null ? null : new Date(instant).toISOString();
