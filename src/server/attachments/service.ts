import { readFile } from 'node:fs/promises';
import type { Context } from 'koa';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import {
  changeableMeeting,
  detailAgain,
  lockChangeableMeeting,
  noteOf,
  readDetail,
  visibleMeeting,
} from '../events/index.ts';
import { act, ConcurrencyLimiter, MadeAgain } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { ALLOWED_ENDINGS } from './fileType.ts';
import { countAttachments, deleteAttachment, insertAttachment, readAttachment } from './queries.ts';
import { receive, refuseTooLarge, type Upload, typeOfFile } from './upload.ts';
import { MOST_FILES } from './limits.ts';

/** Files that are in memory at the same time, however many were sent. */
const filing = new ConcurrencyLimiter({ atOnce: 2, mostWaiting: 200, longestWaitMs: 60_000 });

const noSuchFile = () =>
  new Refusal('no-such-attachment', 'There is no such attachment of this event.');

/**
 * Adds a file that is sent as the body of a request.
 * @throws Refusal unless the actor may change the event; naming what cannot be attached, or is one too many
 */
export async function takeAttachment(
  ctx: Context,
  platform: Platform,
  actor: PersonActor,
  eventId: string,
  name: string,
): Promise<EventDetail> {
  // Who may not attach it need not send it; whether that is still so is looked at again below.
  await changeableMeeting(platform.pool, actor, eventId);
  refuseTooLarge(ctx.req);
  const upload = await receive(ctx.req);
  try {
    return await filing.run(() => attach(ctx, platform, eventId, name, upload));
  } finally {
    await upload.forget();
  }
}

async function attach(
  ctx: Context,
  platform: Platform,
  eventId: string,
  name: string,
  upload: Upload,
): Promise<EventDetail> {
  if (upload.size === 0) throw invalid([{ field: 'file', message: 'must not be empty' }]);
  const type = await typeOfFile({ path: upload.path, name });
  if (!type) {
    throw invalid([
      {
        field: 'file',
        message: `must be one of ${ALLOWED_ENDINGS.join(', ')}, and its content must be what its name says`,
      },
    ]);
  }
  const content = await readFile(upload.path);
  const now = platform.clock.now();
  const { body } = await act(
    ctx,
    platform,
    async (tx, actor) => {
      const meeting = await lockChangeableMeeting(tx, actor, eventId, null);
      if ((await countAttachments(tx, eventId)) >= MOST_FILES) {
        throw invalid([{ field: 'file', message: `may be one of at most ${MOST_FILES} files` }]);
      }
      await insertAttachment(tx, { eventId, name, type, content, by: actor.me.id, now });
      await noteOf(tx, platform, actor, meeting, 'attached', { name });
      const detail = await readDetail(tx, actor, eventId, { now });
      return { status: 201, body: detail, again: detailAgain(eventId) };
    },
    upload.digest,
  );
  return body;
}

/** Sends a file. It is kept, never shown: whatever is inside must not run as a page of ours. */
export async function sendAttachment(
  ctx: Context,
  platform: Platform,
  actor: PersonActor,
  eventId: string,
  id: string,
): Promise<void> {
  await visibleMeeting(platform.pool, actor, eventId);
  const file = await readAttachment(platform.pool, eventId, id);
  if (!file) throw noSuchFile();
  ctx.attachment(file.name);
  ctx.set('Content-Type', file.type);
  ctx.set('Content-Security-Policy', "default-src 'none'; sandbox");
  ctx.set('Cache-Control', 'private, no-store');
  ctx.body = file.content;
}

/** @throws Refusal unless the actor may change the event, or where there is no such file */
export async function removeAttachment(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  eventId: string,
  id: string,
): Promise<MadeAgain<EventDetail>> {
  const meeting = await lockChangeableMeeting(tx, actor, eventId, null);
  if (!(await deleteAttachment(tx, eventId, id))) throw noSuchFile();
  await noteOf(tx, platform, actor, meeting, 'detached', { attachment: id });
  const detail = await readDetail(tx, actor, eventId, { now: platform.clock.now() });
  return new MadeAgain(detail, detailAgain(eventId));
}
