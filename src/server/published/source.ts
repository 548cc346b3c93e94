import { lookup } from 'node:dns';
import http, { type IncomingMessage } from 'node:http';
import https from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import { isPrivateAddress } from './privateAddress.ts';
import { MOST_PUBLISHED_BYTES, MOST_REDIRECTS, PUBLISHED_PATIENCE_MS } from './limits.ts';

/** Where published busy times are read: the web, or a stand-in for it. */
export interface PublishedCalendars {
  /**
   * The text at an address.
   * @throws Error with a sentence when it cannot be had
   */
  read(address: string): Promise<string>;
}

/**
 * Reads addresses over HTTP, with limits on time, size and redirects. An address that was entered here
 * may lie in a network of one's own; where its answer sends on to may not.
 */
export const webCalendars: PublishedCalendars = {
  async read(address) {
    const signal = AbortSignal.timeout(PUBLISHED_PATIENCE_MS);
    const first = webAddress(address);
    let url = first;
    for (let redirects = 0; redirects <= MOST_REDIRECTS; redirects++) {
      const response = await get(url, url.origin === first.origin, signal);
      const { statusCode = 0 } = response;
      const { location } = response.headers;
      if (statusCode >= 300 && statusCode < 400 && location) {
        response.destroy();
        url = webAddress(location, url);
      } else if (statusCode === 200) {
        return readLimited(response);
      } else {
        response.destroy();
        throw new Error(`The publisher answers ${statusCode}.`);
      }
    }
    throw new Error('The publisher sends on again and again.');
  },
};

function webAddress(text: string, base?: URL): URL {
  const url = URL.canParse(text, base?.href) ? new URL(text, base?.href) : null;
  if (!url || !/^https?:$/.test(url.protocol)) {
    throw new Error('The address is not one of the web.');
  }
  return url;
}

function get(url: URL, mayBePrivate: boolean, signal: AbortSignal): Promise<IncomingMessage> {
  if (!mayBePrivate && isIP(bare(url.hostname)) && isPrivateAddress(bare(url.hostname))) {
    return Promise.reject(sentInside());
  }
  const { get: request } = url.protocol === 'https:' ? https : http;
  return new Promise((resolve, reject) => {
    request(
      url,
      {
        headers: { Accept: 'text/calendar' },
        signal,
        // Looked at where the connection is made: a name may mean something else a moment later.
        ...(!mayBePrivate && { lookup: publicLookup }),
      },
      resolve,
    ).on('error', reject);
  });
}

const bare = (hostname: string): string => hostname.replace(/^\[|\]$/g, '');

const publicLookup: LookupFunction = (hostname, options, done) => {
  lookup(hostname, { ...options, all: true }, (error, addresses) => {
    if (error) return done(error, '');
    if (addresses.some(({ address }) => isPrivateAddress(address))) return done(sentInside(), '');
    if (options.all) return done(null, addresses);
    done(null, addresses[0]!.address, addresses[0]!.family);
  });
};

const sentInside = () => new Error('The publisher sends on to an address that is not public.');

async function readLimited(response: IncomingMessage): Promise<string> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of response as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > MOST_PUBLISHED_BYTES) {
      response.destroy();
      throw new Error('What is published there is larger than 2 MB.');
    }
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
}
