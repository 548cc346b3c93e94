import type { Context, Middleware } from 'koa';
import type { Logger } from 'pino';
import type { ProblemBody } from '../../contract/common.ts';
import { Refusal, type FieldProblem } from '../../core/refusal.ts';
import { sqlState } from '../db/transaction.ts';
import { isUnavailable } from '../db/unavailable.ts';
import { requestIdOf } from './requestId.ts';
import { RETRY_SECONDS } from './limits.ts';

/** The status of a refusal by its code; what is not here is a conflict with how things stand. */
const STATUS: Record<string, number> = {
  'invalid-request': 400,
  'not-organizer': 403,
  'not-invited': 403,
  'not-allowed': 403,
  'link-not-valid': 403,
  'not-asked-for': 409,
  'not-theirs': 422,
  'no-such-mail': 404,
  'no-such-event': 404,
  'no-such-attachment': 404,
  'no-such-comment': 404,
  'no-such-delegate': 404,
  'no-such-place': 404,
  'no-such-booking': 404,
  'no-such-wait': 404,
  'no-such-closure': 404,
  'no-such-view': 404,
  'no-such-link': 404,
  'no-such-layer': 404,
  'no-such-category': 404,
  'no-such-line-up': 404,
  'no-such-person': 404,
  'no-such-site': 404,
  'no-such-team': 404,
  'no-such-session': 404,
  'no-such-provider': 404,
  'no-such-passkey': 404,
  'provider-away': 503,
  'too-many-attempts': 429,
  'unknown-subject': 404,
  'unknown-meeting': 422,
  'too-many-bookings': 422,
  'too-many-letters': 429,
  outdated: 422,
  'not-a-reply': 422,
  'too-hard-to-read': 422,
  'too-much': 422,
};
const CONFLICT = 409;

const TITLES: Record<number, string> = {
  400: 'Not understood',
  401: 'Not signed in',
  403: 'Not allowed',
  404: 'Not found',
  409: 'In conflict',
  413: 'Too large',
  415: 'Not JSON',
  421: 'Not here',
  422: 'Not possible',
  429: 'Too many tries',
  500: 'Something broke',
  503: 'Not available',
  507: 'No room',
};

/** Errors of a browser that goes away, in the middle of what it sends or of an answer: no failure of ours. */
const GONE = ['ECONNRESET', 'EPIPE', 'ECONNABORTED', 'ERR_STREAM_PREMATURE_CLOSE', 'ABORT_ERR'];

export function isGone(error: unknown): boolean {
  if (!(error instanceof Error) || !('code' in error)) return false;
  const code = String(error.code);
  // HPE_…: what came over the connection ended, or went on, as no request does.
  return GONE.includes(code) || code.startsWith('HPE_');
}

/** A refusal that is told to whoever asked, as problem details (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    detail: string,
    readonly extra: { fields?: FieldProblem[] } & Record<string, unknown> = {},
  ) {
    super(detail);
    this.name = 'Problem';
  }

  body(): ProblemBody {
    return {
      type: 'about:blank',
      title: TITLES[this.status] ?? 'Refused',
      status: this.status,
      code: this.code,
      detail: this.message,
      ...this.extra,
    };
  }
}

/**
 * Says more of a refusal than it knows itself, such as what stands in the way of a booking; null when
 * there is nothing more to say. Called after everything was rolled back.
 */
export type Explain = (error: unknown, ctx: Context) => Promise<Refusal | null>;

/** Answers every error as problem details; what nobody foresaw is logged and told without its insides. */
export function problems(log: Logger, explain: Explain): Middleware {
  return async (ctx, next) => {
    try {
      await next();
      if (ctx.status === 404 && ctx.body === undefined && ctx.path.startsWith('/api')) {
        throw new Problem(404, 'no-such-address', `There is nothing at ${ctx.path}.`);
      }
    } catch (error) {
      const problem = await explained(error, ctx, explain).catch((failure: unknown) =>
        asProblem(failure),
      );
      if (problem.status === 503) {
        log.warn(
          { why: (error as Error).message, path: ctx.path, requestId: requestIdOf(ctx) },
          'a request had to be put off',
        );
      } else if (problem.status >= 500 || sqlState(error)?.startsWith(DATA_EXCEPTION)) {
        log.error({ error, path: ctx.path, requestId: requestIdOf(ctx) }, 'a request failed');
      }
      const { retryAfterSeconds } = problem.extra;
      if (typeof retryAfterSeconds === 'number') ctx.set('Retry-After', String(retryAfterSeconds));
      ctx.status = problem.status;
      ctx.body = { ...problem.body(), requestId: requestIdOf(ctx) };
      ctx.type = 'application/problem+json';
    }
  };
}

async function explained(error: unknown, ctx: Context, explain: Explain): Promise<Problem> {
  return asProblem((await explain(error, ctx)) ?? error);
}

/** A text that PostgreSQL cannot keep, which the contract should have refused. */
const CHARACTER_NOT_IN_REPERTOIRE = '22021';
/** Codes of a value that cannot be what it is to be: too large, or no text that can be kept. */
const DATA_EXCEPTION = '22';
/** The database's own disk. */
const DISK_FULL = '53100';

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  if (error instanceof Refusal) {
    return new Problem(STATUS[error.code] ?? CONFLICT, error.code, error.message, error.facts);
  }
  if (sqlState(error) === DISK_FULL) {
    return new Problem(507, 'no-room', 'The database has no room left. Nothing was changed.');
  }
  if (sqlState(error) === CHARACTER_NOT_IN_REPERTOIRE) {
    return new Problem(400, 'invalid-request', 'A text holds a character that cannot be kept.', {
      fields: [{ field: 'body', message: 'must not hold control characters' }],
    });
  }
  if (isUnavailable(error)) {
    return new Problem(
      503,
      'unavailable',
      'Marmot cannot get at its data right now. Try again in a moment.',
      { retryAfterSeconds: RETRY_SECONDS },
    );
  }
  if (isGone(error)) {
    return new Problem(400, 'aborted', 'The request ended before all of it was there.');
  }
  if (sqlState(error)?.startsWith(DATA_EXCEPTION)) {
    return new Problem(400, 'invalid-request', 'A value in it cannot be kept as it is.', {
      fields: [{ field: 'body', message: 'must hold values within what each field allows' }],
    });
  }
  const status = error instanceof Error && 'status' in error ? Number(error.status) : 500;
  if (status === 413) {
    return new Problem(
      413,
      'too-large',
      'The request is larger than the 1 MB allowed, or 64 kB where nobody is signed in.',
    );
  }
  return new Problem(500, 'broken', 'Something broke on our side; nothing was changed.');
}
