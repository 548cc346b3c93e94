import type { Middleware } from 'koa';
import type { Logger } from 'pino';
import type { ProblemBody } from '../../contract/common.ts';

export interface FieldProblem {
  field: string;
  message: string;
}

const TITLES: Record<number, string> = {
  400: 'Not understood',
  401: 'Not signed in',
  403: 'Not allowed',
  404: 'Not found',
  409: 'In conflict',
  413: 'Too large',
  415: 'Not JSON',
  422: 'Not possible',
  429: 'Too many tries',
  500: 'Something broke',
};

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

/** A problem with fields of the request; the sentence repeats them so that it stands on its own. */
export function invalid(fields: FieldProblem[]): Problem {
  const detail = fields.map(({ field, message }) => `${field} ${message}`).join('; ');
  return new Problem(400, 'invalid-request', `${detail}.`, { fields });
}

/** Answers every error as problem details; what nobody foresaw is logged and told without its insides. */
export function problems(log: Logger): Middleware {
  return async (ctx, next) => {
    try {
      await next();
      if (ctx.status === 404 && ctx.body === undefined && ctx.path.startsWith('/api')) {
        throw new Problem(404, 'no-such-address', `There is nothing at ${ctx.path}.`);
      }
    } catch (error) {
      const problem = asProblem(error);
      if (problem.status >= 500) log.error({ error, path: ctx.path }, 'a request failed');
      ctx.status = problem.status;
      ctx.body = problem.body();
      ctx.type = 'application/problem+json';
    }
  };
}

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  const status = error instanceof Error && 'status' in error ? Number(error.status) : 500;
  if (status === 413) {
    return new Problem(413, 'too-large', 'The request is larger than the 1 MB allowed.');
  }
  return new Problem(500, 'broken', 'Something broke on our side; nothing was changed.');
}
