import { readFile } from 'node:fs/promises';
import type { Context } from 'koa';
import { invalid, Refusal } from '../../core/refusal.ts';
import { requireKeeper } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import { receive, refuseTooLarge, typeOfFile } from '../attachments/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { act, ConcurrencyLimiter } from '../http/index.ts';
import { commitThings, type ThingChange } from '../facts/index.ts';
import type { Platform } from '../platform.ts';
import { holdResources } from '../reservations/index.ts';
import { deletePhoto, readPhoto, upsertPhoto } from './queries.ts';
import { MOST_PICTURE_BYTES, PICTURE_KEPT_SECONDS } from './limits.ts';

/** What browsers draw and nothing runs in. */
const TYPES = ['image/png', 'image/jpeg', 'image/webp'];

/** Pictures that are in memory at the same time, however many were sent. */
const filing = new ConcurrencyLimiter({ atOnce: 2, mostWaiting: 50, longestWaitMs: 30_000 });

/** Sends how a place looks. @throws Refusal where there is no picture */
export async function sendPhoto(ctx: Context, platform: Platform, id: number): Promise<void> {
  const photo = await readPhoto(platform.pool, id);
  if (!photo) throw new Refusal('no-such-place', 'There is no picture of such a place.');
  ctx.set('Content-Type', photo.type);
  ctx.set('Content-Security-Policy', "default-src 'none'; sandbox");
  ctx.set('Cache-Control', `private, max-age=${PICTURE_KEPT_SECONDS}, immutable`);
  ctx.body = photo.content;
}

/**
 * Keeps a picture that is sent as the body of a request.
 * @throws Refusal unless the actor looks after places; naming what is no picture, or too large
 */
export async function takePhoto(
  ctx: Context,
  platform: Platform,
  id: number,
): Promise<{ kept: boolean }> {
  refuseTooLarge(ctx.req);
  const upload = await receive(ctx.req);
  try {
    if (upload.size > MOST_PICTURE_BYTES) {
      throw invalid([{ field: 'file', message: 'may be at most 1 MB' }]);
    }
    await filing.run(async () => {
      const type = await typeOfFile({ path: upload.path, name: null });
      if (type === null || !TYPES.includes(type)) {
        throw invalid([{ field: 'file', message: 'must be a picture: PNG, JPEG or WebP' }]);
      }
      const content = await readFile(upload.path);
      const keep = async (tx: Transaction, actor: PersonActor) => {
        const held = await holdResources(tx, [id], () => 'id');
        requireKeeper(actor, [{ id, name: held.get(id)!.name }]);
        upsertPhoto(tx, id, type, content);
        await commitThings(tx, platform, actor, [pictured(id, held.get(id)!.name, false)]);
        return { status: 201, body: { kept: true } };
      };
      await act(ctx, platform, keep, upload.digest);
    });
    return { kept: true };
  } finally {
    await upload.forget();
  }
}

/** @throws Refusal unless the actor looks after places */
export async function removePhoto(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  id: number,
): Promise<void> {
  const held = await holdResources(tx, [id], () => 'id');
  requireKeeper(actor, [{ id, name: held.get(id)!.name }]);
  deletePhoto(tx, id);
  await commitThings(tx, platform, actor, [pictured(id, held.get(id)!.name, true)]);
}

/** That a place has a picture, or none any more; it is kept, and not taken back. */
const pictured = (thingId: number, name: string, isRemoved: boolean): ThingChange => ({
  fact: { thing: 'place', thingId, kind: 'place-pictured', details: { name, isRemoved } },
});
