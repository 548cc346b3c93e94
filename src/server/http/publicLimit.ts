import type { Middleware } from 'koa';
import type { Pool } from 'pg';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { networkOf } from './network.ts';
import { Problem } from './problem.ts';
import { MOST_A_MINUTE } from './limits.ts';

/** Counts requests of those who need not sign in, by network address, among all servers. */
export function publicLimit(pool: Pool): Middleware {
  const limiter = new RateLimiterPostgres({
    storeClient: pool,
    tableName: 'rate_limit',
    tableCreated: true,
    keyPrefix: 'guest',
    points: MOST_A_MINUTE,
    duration: 60,
  });
  return async (ctx, next) => {
    await limiter.consume(networkOf(ctx.ip)).catch((refusal: unknown) => {
      if (!(refusal instanceof RateLimiterRes)) throw refusal;
      throw new Problem(429, 'too-many-requests', 'Too many requests. Try again in a minute.', {
        retryAfterSeconds: Math.ceil(refusal.msBeforeNext / 1000),
      });
    });
    return next();
  };
}
