import type { Middleware } from 'koa';
import proxyAddress from 'proxy-addr';
import type { Platform } from '../platform.ts';
import { Problem } from './problem.ts';

const READS = new Set(['GET', 'HEAD', 'OPTIONS']);
const LOOPBACK = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/i;
const NUMERIC = /^(\d{1,3}(\.\d{1,3}){3}|\[[0-9a-f:.]+\])(:\d+)?$/i;

/** Finds out from which network address a request comes, believing only the proxies that are known. */
export function clientIp({ proxies }: Pick<Platform, 'proxies'>): Middleware {
  const isProxy = proxyAddress.compile([...proxies]);
  return (ctx, next) => {
    ctx.request.ip = proxyAddress(ctx.req, isProxy);
    return next();
  };
}

/**
 * Answers only under the addresses that people use: the public one, and this machine's own. Another
 * name that leads here is somebody's who wants their page to be taken for this one. Without a public
 * address the numbers of the network are answered too, which no foreign page can be called.
 */
export function knownHosts({
  publicUrl,
  publicUrlGiven,
}: Pick<Platform, 'publicUrl' | 'publicUrlGiven'>): Middleware {
  const { host: publicHost } = new URL(publicUrl);
  const isOurs = (host: string) =>
    host.toLowerCase() === publicHost ||
    LOOPBACK.test(host) ||
    (!publicUrlGiven && NUMERIC.test(host));
  return (ctx, next) => {
    const host = ctx.get('Host');
    // Whoever only asks whether it is well need not know its name.
    if (ctx.path !== '/api/health' && !isOurs(host)) {
      throw new Problem(421, 'unknown-host', `This is not ${host || 'a host without a name'}.`);
    }
    const origin = ctx.get('Origin');
    if (!READS.has(ctx.method) && origin && !isSame(origin, host, publicUrl)) {
      throw new Problem(403, 'foreign-origin', 'This request comes from a page of another site.');
    }
    return next();
  };
}

/** Whether a page's origin is the public address, or the very host that was asked. */
function isSame(origin: string, host: string, publicUrl: string): boolean {
  if (origin === publicUrl) return true;
  if (!URL.canParse(origin)) return false;
  return new URL(origin).host === host.toLowerCase();
}

/** What the API answers is for whoever asked, now; what is served for good says so itself. */
export const noStore: Middleware = (ctx, next) => {
  if (ctx.path.startsWith('/api')) ctx.set('Cache-Control', 'no-store');
  return next();
};
