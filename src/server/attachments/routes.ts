import { readFile } from 'node:fs/promises';
import Router from '@koa/router';
import type { Context } from 'koa';
import { z } from 'zod';
import { requiredLine } from '../../contract/common.ts';
import { eventPath } from '../../contract/events.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import {
  changeableMeeting,
  lockChangeableMeeting,
  noteOf,
  detailAgain,
  readDetail,
  visibleMeeting,
} from '../events/index.ts';
import { act, Line, read, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { ALLOWED_ENDINGS } from './fileType.ts';
import { countAttachments, deleteAttachment, insertAttachment, readAttachment } from './queries.ts';
import { receive, refuseTooLarge, type Upload, typeOfFile } from './upload.ts';

const MOST_FILES = 20;
const nameQuery = z.strictObject({
  name: requiredLine(200)
    .refine((name) => !/[\\/\0]/.test(name), 'must be a name without a folder')
    // By them `exe.\u202efdp` is read as a document, wherever the name is shown or kept.
    .refine(
      (name) => !/[\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]/.test(name),
      'must be a name without marks that turn the direction of writing',
    ),
});
const attachmentPath = eventPath.extend({ attachment: z.uuid('must be the id of an attachment') });

const noSuchFile = () =>
  new Refusal('no-such-attachment', 'There is no such attachment of this event.');

/** /api/events/:id/attachments: adding a file (its bytes as the body), reading and removing it. */
export function attachmentsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/events/:id/attachments' });

  /** Files that are in memory at the same time, however many were sent. */
  const filing = new Line({ atOnce: 2, mostWaiting: 200, longestWaitMs: 60_000 });

  const answer = async (tx: Transaction, actor: PersonActor, id: string, status: number) => ({
    status,
    body: await readDetail(tx, actor, id, { now: platform.clock.now() }),
    again: detailAgain(id),
  });

  router.post('/', async (ctx) => {
    const actor = requireActor(ctx);
    const { id } = read(eventPath, ctx.params);
    const { name } = read(nameQuery, { ...ctx.query });
    // Who may not attach it need not send it; whether that is still so is looked at again below.
    await changeableMeeting(platform.pool, actor, id);
    refuseTooLarge(ctx.req);
    const upload = await receive(ctx.req);
    try {
      await filing.run(() => file(ctx, id, name, upload));
    } finally {
      await upload.forget();
    }
  });

  const file = async (ctx: Context, id: string, name: string, upload: Upload) => {
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
    const attach = async (tx: Transaction, actor: PersonActor) => {
      const meeting = await lockChangeableMeeting(tx, actor, id, null);
      if ((await countAttachments(tx, id)) >= MOST_FILES) {
        throw invalid([{ field: 'file', message: `may be one of at most ${MOST_FILES} files` }]);
      }
      const attached = { eventId: id, name, type, content };
      await insertAttachment(tx, { ...attached, by: actor.me.id, now: platform.clock.now() });
      await noteOf(tx, platform, actor, meeting, 'attached', { name });
      return answer(tx, actor, id, 201);
    };
    await act(ctx, platform, attach, upload.digest);
  };

  router.get('/:attachment', async (ctx) => {
    const actor = requireActor(ctx);
    const { id, attachment } = read(attachmentPath, ctx.params);
    await visibleMeeting(platform.pool, actor, id);
    const file = await readAttachment(platform.pool, id, attachment);
    if (!file) throw noSuchFile();
    // Kept, never shown: whatever is inside must not run as a page of ours.
    ctx.attachment(file.name);
    ctx.set('Content-Type', file.type);
    ctx.set('Content-Security-Policy', "default-src 'none'; sandbox");
    ctx.set('Cache-Control', 'private, no-store');
    ctx.body = file.content;
  });

  router.delete('/:attachment', async (ctx) => {
    const { id, attachment } = read(attachmentPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      const meeting = await lockChangeableMeeting(tx, actor, id, null);
      if (!(await deleteAttachment(tx, id, attachment))) throw noSuchFile();
      await noteOf(tx, platform, actor, meeting, 'detached', { attachment });
      return answer(tx, actor, id, 200);
    });
  });

  return router;
}
