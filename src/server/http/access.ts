import type { Context } from 'koa';
import type { Actor, PersonActor } from '../actions/index.ts';
import { Problem } from './problem.ts';

/** Who asks; set by the session middleware. */
export const whoAsks = (ctx: Context): PersonActor | null =>
  (ctx.state as { actor?: PersonActor }).actor ?? null;

/** Notes who asks, for everything that follows. */
export const noteActor = (ctx: Context, actor: Actor): void => {
  (ctx.state as { actor?: Actor }).actor = actor;
};

/** Notes by which subject the end of the asker's session is made known. */
export const noteSession = (ctx: Context, subject: string): void => {
  (ctx.state as { sessionSubject?: string }).sessionSubject = subject;
};

export const sessionSubject = (ctx: Context): string | null =>
  (ctx.state as { sessionSubject?: string }).sessionSubject ?? null;

/** @throws Problem 401 when nobody is signed in */
export function requireActor(ctx: Context): PersonActor {
  const actor = whoAsks(ctx);
  if (!actor) throw new Problem(401, 'not-signed-in', 'You are signed out. Sign in to go on.');
  return actor;
}
