import { createServer } from 'node:net';

/** Ports below those that the system gives to whoever asks for any, so that none is given away meanwhile. */
const FIRST = 20_000;
const COUNT = 10_000;
let next = (process.pid * 97) % COUNT;

/**
 * A port of loopback that nobody listens on, and that stays free for a server that is started there again
 * and again.
 */
export async function freePort(): Promise<number> {
  for (let tries = 0; tries < COUNT; tries++) {
    const port = FIRST + (next++ % COUNT);
    const isFree = await new Promise<boolean>((resolve) => {
      const probe = createServer()
        .on('error', () => resolve(false))
        .listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
    });
    if (isFree) return port;
  }
  throw new Error('no port is free');
}
