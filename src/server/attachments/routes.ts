import type { IncomingMessage } from 'node:http';
import Router from '@koa/router';
import { z } from 'zod';
import { requiredLine } from '../../contract/common.ts';
import { eventPath } from '../../contract/events.ts';
import type { Me } from '../../contract/session.ts';
import type { Transaction } from '../db/transaction.ts';
import { detailFor, lockEvent, ownEvent, visibleEvent } from '../events/index.ts';
import { act } from '../http/action.ts';
import { requirePerson } from '../http/access.ts';
import { invalid, Problem } from '../http/problem.ts';
import { read } from '../http/validate.ts';
import { announce } from '../live/hub.ts';
import type { Platform } from '../platform.ts';
import { ALLOWED_ENDINGS, attachmentType } from './fileType.ts';
import { countAttachments, deleteAttachment, insertAttachment, readAttachment } from './queries.ts';

const MOST_BYTES = 10 * 1024 * 1024;
const MOST_FILES = 20;
const nameQuery = z.strictObject({
  name: requiredLine(200).refine(
    (name) => !/[\\/\0]/.test(name),
    'must be a name without a folder',
  ),
});
const attachmentPath = eventPath.extend({ attachment: z.uuid('must be the id of an attachment') });

const noSuchFile = () =>
  new Problem(404, 'no-such-attachment', 'There is no such attachment of this event.');

/** The body as it came. @throws Problem 413 when it is larger than allowed */
async function readFile(request: IncomingMessage): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    size += chunk.length;
    // The rest is read and dropped, so that the answer is heard.
    if (size <= MOST_BYTES) chunks.push(chunk);
  }
  if (size > MOST_BYTES) {
    throw new Problem(413, 'too-large', 'A file may be at most 10 MB; this one is larger.', {
      fields: [{ field: 'file', message: 'may be at most 10 MB' }],
    });
  }
  return Buffer.concat(chunks);
}

/** /api/events/:id/attachments: adding a file (its bytes as the body), reading and removing it. */
export function attachmentsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/events/:id/attachments' });

  const answer = async (tx: Transaction, me: Me, id: string, status: number) => {
    const event = await visibleEvent(tx, me, id, platform.clock.now());
    await announce(tx, ['calendar'], [me.id]);
    return { status, body: await detailFor(tx, event, me) };
  };

  router.post('/', async (ctx) => {
    requirePerson(ctx);
    const { id } = read(eventPath, ctx.params);
    const { name } = read(nameQuery, { ...ctx.query });
    const content = await readFile(ctx.req);
    if (content.length === 0) throw invalid([{ field: 'file', message: 'must not be empty' }]);
    const type = await attachmentType(name, content);
    if (!type) {
      throw invalid([
        {
          field: 'file',
          message: `must be a ${ALLOWED_ENDINGS.join(', ')} file, inside as its name says`,
        },
      ]);
    }
    await act(ctx, platform, async (tx, me) => {
      await lockEvent(tx, id);
      const now = platform.clock.now();
      await ownEvent(tx, me, id, now);
      if ((await countAttachments(tx, id)) >= MOST_FILES) {
        throw invalid([{ field: 'file', message: `may be one of at most ${MOST_FILES} files` }]);
      }
      await insertAttachment(tx, { eventId: id, name, type, content, by: me.id, now });
      return answer(tx, me, id, 201);
    });
  });

  router.get('/:attachment', async (ctx) => {
    const me = requirePerson(ctx);
    const { id, attachment } = read(attachmentPath, ctx.params);
    await visibleEvent(platform.pool, me, id, platform.clock.now());
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
    await act(ctx, platform, async (tx, me) => {
      await ownEvent(tx, me, id, platform.clock.now());
      if (!(await deleteAttachment(tx, id, attachment))) throw noSuchFile();
      return answer(tx, me, id, 200);
    });
  });

  return router;
}
