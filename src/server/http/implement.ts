import Router from '@koa/router';
import type { Context, Middleware } from 'koa';
import { z } from 'zod';
import {
  nothing,
  type AnswerOf,
  type Cost,
  type ReadOf,
  type Route,
  type RouteTable,
} from '../../contract/route.ts';
import { requireRight } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import type { Platform } from '../platform.ts';
import { requireActor, whoAsks } from './access.ts';
import { act } from './action.ts';
import { jsonBody } from './body.ts';
import type { Again } from './idempotency.ts';
import { publicLimit } from './publicLimit.ts';
import { read, readBody } from './validate.ts';

/** A request as its route reads it, with who asks and the present instant. */
export interface Asked<Of> extends ReadOf<Of> {
  actor: Of extends { may: 'anybody' } ? PersonActor | null : PersonActor;
  /** Epoch milliseconds. */
  now: number;
  /** For what is no JSON: bytes that are sent or received, cookies. */
  ctx: Context;
}

type Awaitable<Value> = Value | Promise<Value>;

/** An answer that is too long to be kept for whoever repeats the request, and what makes it again. */
export class MadeAgain<Body> {
  constructor(
    readonly body: Body,
    readonly again: Again,
  ) {}
}

/** What only reads, or acts by itself. A file is put into the answer by the handler. */
type Answers<Of> = (asked: Asked<Of>) => Awaitable<AnswerOf<Of>>;
/** What acts, in one transaction and once for each Idempotency-Key. */
type Acts<Of> = (
  tx: Transaction,
  asked: Asked<Of>,
) => Awaitable<AnswerOf<Of> | MadeAgain<AnswerOf<Of>>>;

/** One handler a route: a missing or a further one does not compile. */
export type Handlers<Table> = {
  [Name in keyof Table]: Name extends `GET ${string}`
    ? Answers<Table[Name]>
    : Table[Name] extends { transaction: false }
      ? Answers<Table[Name]>
      : Acts<Table[Name]>;
};

/** The routes of a capability with what answers them. */
export interface Capability {
  routes: RouteTable;
  handlers(platform: Platform): Record<string, (...given: never[]) => unknown>;
}

export const implement = <const Table extends RouteTable>(
  routes: Table,
  handlers: (platform: Platform) => Handlers<Table>,
): Capability => ({ routes, handlers });

/** Lets the requests of one asker wait for each other, by what they cost. */
export type Share = (cost: Cost) => Middleware;

/** The router of all capabilities: who may, what is read, in which share, and what is answered. */
export function routerOf(
  platform: Platform,
  capabilities: readonly Capability[],
  share: Share,
): Router {
  const router = new Router();
  const limit = publicLimit(platform.pool);
  const body = jsonBody();
  for (const { routes, handlers } of capabilities) {
    const answering = handlers(platform);
    for (const [name, route] of Object.entries(routes)) {
      const [method = '', path = ''] = name.split(' ');
      const cost = route.cost ?? 'few';
      const steps = [
        share(cost),
        ...(cost === 'public' ? [limit] : []),
        ...(route.body ? [body] : []),
        answer(platform, name, route, answering[name] as Handler),
      ];
      router.register(path, [method], steps);
    }
  }
  return router;
}

type Handler = (...given: unknown[]) => unknown;

function answer(platform: Platform, name: string, route: Route, handler: Handler): Middleware {
  const acts = !name.startsWith('GET ') && route.transaction !== false;
  const isFile = 'mediaTypes' in route.answer;
  const fits = platform.checksAnswers ? answerCheck(name, route) : () => undefined;
  return async (ctx) => {
    if (route.may !== 'anybody') requireRight(requireActor(ctx), route.may);
    const asked = {
      params: route.params && read(route.params, (ctx as { params?: unknown }).params),
      query: route.query && read(route.query, { ...ctx.query }),
      body: route.body && readBody(route.body, ctx),
      actor: whoAsks(ctx),
      now: platform.clock.now(),
      ctx,
    };
    ctx.status = route.status ?? (route.answer === nothing ? 204 : 200);
    if (!acts) {
      const body = await handler(asked);
      fits(body);
      if (!isFile && route.answer !== nothing) ctx.body = body;
      return;
    }
    const done = await act(ctx, platform, async (tx, actor) => {
      const made = await handler(tx, { ...asked, actor });
      const body: unknown = made instanceof MadeAgain ? made.body : made;
      fits(body);
      const again = made instanceof MadeAgain ? made.again : undefined;
      return { status: route.status ?? 200, body, again };
    });
    ctx.status = done.status;
    ctx.body = done.body;
  };
}

/**
 * Holds an answer to its schema, in tests and in development.
 * @throws Error naming where it does not fit, which is a mistake of ours
 */
function answerCheck(name: string, { answer: expected }: Route): (body: unknown) => void {
  if (!(expected instanceof z.ZodType)) return () => undefined;
  return (body) => {
    const result = expected.safeParse(body);
    if (result.success) return;
    const where = result.error.issues
      .slice(0, 5)
      .map(({ path, message }) => `${path.map(String).join('.')}: ${message}`);
    throw new Error(`The answer to ${name} does not fit its schema: ${where.join('; ')}`);
  };
}
