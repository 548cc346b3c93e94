import { bodyParser } from '@koa/bodyparser';
import type { Middleware } from 'koa';
import { whoAsks } from './access.ts';
import { Problem } from './problem.ts';
import { LONGEST_BODY_MS } from './limits.ts';

/** Whoever is not signed in says little: an address and a password, a name and a note. */
const MOST_OF_STRANGERS = '64kb';
const MOST = '1mb';

const parser = (jsonLimit: string): Middleware =>
  bodyParser({
    enableTypes: ['json'],
    jsonLimit,
    onError: (error: Error & { status?: number; type?: string }) => {
      if (error.status === 413 || error.type === 'request.aborted') throw error;
      throw new Problem(400, 'not-json', 'The body is not valid JSON.', {
        fields: [{ field: 'body', message: 'must be valid JSON' }],
      });
    },
  });

/** Reads a body of JSON, a small one of whoever is not signed in. */
export function jsonBody(): Middleware {
  const ofStrangers = parser(MOST_OF_STRANGERS);
  const ofPeople = parser(MOST);
  return async (ctx, next) => {
    const timer = setTimeout(() => ctx.req.destroy(), LONGEST_BODY_MS);
    const read: () => Promise<void> = () => {
      clearTimeout(timer);
      return next() as Promise<void>;
    };
    try {
      await (whoAsks(ctx) ? ofPeople : ofStrangers)(ctx, read);
    } finally {
      clearTimeout(timer);
    }
  };
}
