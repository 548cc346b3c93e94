import Router from '@koa/router';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import PostalMime, { type Email } from 'postal-mime';
import {
  mailroomAnswer,
  mailroomPath,
  mailroomQuery,
  type MailroomDropped,
  type MailroomMessage,
} from '../../../src/contract/mailroom.ts';
import { composeReply } from '../../../src/core/icalendar/reply.ts';
import type { PersonActor } from '../../../src/server/actions/index.ts';
import { MOST_BYTES, readMail, receiveMail } from '../../../src/server/incoming/index.ts';
import { Problem, read, readBody, requireActor } from '../../../src/server/http/index.ts';
import type { Platform } from '../../../src/server/platform.ts';
import { readEntries, readMessage, readsEverything } from './queries.ts';

/**
 * /api/mailroom: the mail that was sent, as its receivers would see it, and answering as they would.
 * In the demonstration its own people may read all of it; whoever else reads what is theirs.
 */
export function mailroomRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/mailroom' });

  router.get('/', async (ctx) => {
    const { me } = requireActor(ctx);
    const query = read(mailroomQuery, { ...ctx.query });
    const everyone = await readsEverything(platform.pool, me.id);
    const of = everyone ? (query.recipient ?? null) : me.email;
    ctx.body = await readEntries(platform.pool, of, query);
  });

  router.get('/:id', async (ctx) => {
    const { entry, mail } = await openMessage(platform, requireActor(ctx), ctx.params);
    const calendar = calendarPart(mail);
    const body: MailroomMessage = {
      id: entry.id,
      sender: entry.sender,
      recipient: entry.recipient,
      subject: mail.subject ?? entry.subject,
      receivedAt: entry.receivedAt,
      from: address(mail.from),
      to: address(mail.to?.[0]),
      text: mail.text ?? '',
      calendar,
      method: /^METHOD:(\w+)/m.exec(calendar ?? '')?.[1] ?? null,
    };
    ctx.body = body;
  });

  router.get('/:id/letter', async (ctx) => {
    const { mail } = await openMessage(platform, requireActor(ctx), ctx.params);
    // Mail is a stranger's page: nothing in it may run or load, its inline styles apart.
    ctx.set(
      'Content-Security-Policy',
      "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'self'; sandbox allow-popups allow-top-navigation-by-user-activation",
    );
    ctx.type = 'html';
    ctx.body = (mail.html ?? '').replace('<body', '<base target="_top"><body');
  });

  router.get('/:id/source', async (ctx) => {
    const { entry } = await openMessage(platform, requireActor(ctx), ctx.params);
    ctx.type = 'text/plain';
    ctx.body = entry.source;
  });

  router.post('/:id/answer', async (ctx) => {
    const { entry, mail } = await openMessage(platform, requireActor(ctx), ctx.params);
    const { reply, note, instead } = readBody(mailroomAnswer, ctx);
    const calendar = calendarPart(mail);
    if (!calendar) throw new Problem(409, 'no-invitation', 'This mail carries no invitation.');
    const now = platform.clock.now();
    const answer = composeReply(calendar, {
      email: entry.recipient,
      reply,
      comment: note,
      stamp: now,
      instead,
    });
    const to = mail.replyTo?.[0]?.address ?? '';
    const source = await mailOf(mail, entry.recipient, to, note, answer);
    const { state, reason } = await receiveMail(platform, await readMail(source), to);
    if (state !== 'counted') throw new Problem(422, 'put-aside', `It was put aside. ${reason}`);
    ctx.status = 204;
  });

  /** A mail or a calendar file that somebody has, as if it had just come in. */
  router.post('/drop', async (ctx) => {
    const { me } = requireActor(ctx);
    const source = await rawBody(ctx.req);
    const letter = await readMail(source);
    const to =
      letter.to.find((one) => one.startsWith('answers+')) ??
      letter.to.find((one) => one.toLowerCase() === me.email.toLowerCase()) ??
      '';
    ctx.body = (await receiveMail(platform, letter, to, me)) satisfies MailroomDropped;
  });

  return router;
}

/** At most so much is read of what is dropped; more is refused. */
async function rawBody(stream: AsyncIterable<Buffer>): Promise<Buffer> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of stream) {
    size += part.length;
    if (size > MOST_BYTES) throw new Problem(413, 'too-large', 'A mail may be at most 2 MB large.');
    parts.push(part);
  }
  return Buffer.concat(parts);
}

/** The answer as a mail program sends it. */
const mailOf = (
  letter: Email,
  from: string,
  to: string,
  note: string,
  calendar: string,
): Promise<Buffer> =>
  new MailComposer({
    from,
    to,
    subject: `Re: ${letter.subject ?? ''}`,
    inReplyTo: letter.messageId,
    text: note,
    icalEvent: { method: /^METHOD:(\w+)/m.exec(calendar)![1]!, content: calendar },
  })
    .compile()
    .build();

async function openMessage(platform: Platform, { me }: PersonActor, params: unknown) {
  const { id } = read(mailroomPath, params);
  const entry = await readMessage(platform.pool, id);
  const own = entry?.recipient.toLowerCase() === me.email.toLowerCase();
  if (!entry || !(own || (await readsEverything(platform.pool, me.id)))) {
    throw new Problem(404, 'no-such-message', 'There is no such message.');
  }
  return { entry, mail: await PostalMime.parse(entry.source) };
}

const address = (found: Email['from']) => ({
  name: found?.name ?? '',
  address: found?.address ?? '',
});

function calendarPart(mail: Email): string | null {
  const part = mail.attachments.find((attachment) => attachment.mimeType === 'text/calendar');
  if (!part) return null;
  return typeof part.content === 'string' ? part.content : new TextDecoder().decode(part.content);
}
