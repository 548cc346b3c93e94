/** Where published busy times are read: the web, or a stand-in for it. */
export interface PublishedCalendars {
  /**
   * The text at an address.
   * @throws Error with a sentence when it cannot be had
   */
  read(address: string): Promise<string>;
}

const PATIENCE_MS = 10_000;
const MOST_BYTES = 2 * 1024 * 1024;

/** Reads addresses over HTTP, with limits on time and size. */
export const webCalendars: PublishedCalendars = {
  async read(address) {
    if (!/^https?:\/\//i.test(address)) throw new Error('The address is not one of the web.');
    const response = await fetch(address, {
      headers: { Accept: 'text/calendar' },
      signal: AbortSignal.timeout(PATIENCE_MS),
    });
    if (!response.ok) throw new Error(`The publisher answers ${response.status}.`);
    return readLimited(response);
  },
};

async function readLimited(response: Response): Promise<string> {
  const reader = response.body?.getReader();
  const parts: Uint8Array[] = [];
  let size = 0;
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    size += part.value.length;
    if (size > MOST_BYTES) {
      await reader?.cancel();
      throw new Error('What is published there is larger than 2 MB.');
    }
    parts.push(part.value);
  }
  return Buffer.concat(parts).toString('utf8');
}
