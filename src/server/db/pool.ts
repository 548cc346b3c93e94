import pg from 'pg';

const OID = { int8: 20, timestamp: 1114, timestamptz: 1184 } as const;

/** Instants are read as epoch milliseconds, wall times as `YYYY-MM-DDTHH:mm`, counts as numbers. */
function typeParser(oid: number, format?: 'text' | 'binary') {
  if (oid === OID.timestamptz) return (text: string) => Date.parse(text);
  if (oid === OID.timestamp) return (text: string) => text.slice(0, 16).replace(' ', 'T');
  if (oid === OID.int8) return Number;
  return pg.types.getTypeParser(oid, format);
}

/**
 * A pool of connections to the database.
 * @param size the most connections; every transaction holds one
 */
export function createPool(connectionString: string, size = 16): pg.Pool {
  return new pg.Pool({
    connectionString,
    max: size,
    types: { getTypeParser: typeParser as typeof pg.types.getTypeParser },
    application_name: 'marmot',
    // Read here as UTC, so that text forms of instants are the same everywhere.
    options: '-c TimeZone=UTC',
  });
}
