import { createServer, type RequestListener, type Server } from 'node:http';
import { MOST_HEADER_BYTES } from './limits.ts';

/** How long a connection is waited for, at each step, and how many there may be. Milliseconds. */
export interface ConnectionLimits {
  /** Until a request's head is there. */
  headMs: number;
  /** Until all of a request is there, an upload at a slow line included. */
  requestMs: number;
  /** While nothing moves, in either direction. A live stream says something more often. */
  silentMs: number;
  /** Until the next request on the same connection: longer than proxies keep theirs. */
  keptMs: number;
  /** How often this is looked at. */
  everyMs: number;
  mostConnections: number;
}

const LIMITS: ConnectionLimits = {
  headMs: 15_000,
  requestMs: 180_000,
  silentMs: 90_000,
  keptMs: 75_000,
  everyMs: 2_000,
  mostConnections: 8_000,
};

/** An HTTP server that lets nobody hold a connection by sending or reading slowly. */
export function createListener(answer: RequestListener, limits = LIMITS): Server {
  const server = createServer(
    {
      maxHeaderSize: MOST_HEADER_BYTES,
      headersTimeout: limits.headMs,
      requestTimeout: limits.requestMs,
      keepAliveTimeout: limits.keptMs,
      connectionsCheckingInterval: limits.everyMs,
    },
    answer,
  );
  server.timeout = limits.silentMs;
  server.maxConnections = limits.mostConnections;
  return server;
}
