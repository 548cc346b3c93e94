import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import PostalMime, { type Email } from 'postal-mime';
import { mailroomRoutes } from '../../../src/contract/mailroom.ts';
import { composeReply } from '../../../src/core/icalendar/reply.ts';
import type { PersonActor } from '../../../src/server/actions/index.ts';
import { readMail, receiveMail, MOST_MAIL_BYTES } from '../../../src/server/incoming/index.ts';
import { implement, Problem } from '../../../src/server/http/index.ts';
import type { Platform } from '../../../src/server/platform.ts';
import { readEntries, readMessage, readsEverything } from './queries.ts';

export const mailroomApi = implement(mailroomRoutes, (platform) => {
  const { pool } = platform;
  return {
    'GET /api/mailroom': async ({ actor: { me }, query }) => {
      const everyone = await readsEverything(pool, me.id);
      return readEntries(pool, everyone ? (query.recipient ?? null) : me.email, query);
    },
    'GET /api/mailroom/:id': async ({ actor, params }) => {
      const { entry, mail } = await openMessage(platform, actor, params.id);
      const calendar = calendarPart(mail);
      return {
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
    },
    'GET /api/mailroom/:id/letter': async ({ actor, params, ctx }) => {
      const { mail } = await openMessage(platform, actor, params.id);
      // Mail is a stranger's page: nothing in it may run or load, its inline styles apart.
      ctx.set(
        'Content-Security-Policy',
        "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'self'; sandbox allow-popups allow-top-navigation-by-user-activation",
      );
      ctx.type = 'html';
      ctx.body = (mail.html ?? '').replace('<body', '<base target="_top"><body');
    },
    'GET /api/mailroom/:id/source': async ({ actor, params, ctx }) => {
      const { entry } = await openMessage(platform, actor, params.id);
      ctx.type = 'text/plain';
      ctx.body = entry.source;
    },
    'POST /api/mailroom/:id/answer': async ({ actor, params, body, now }) => {
      const { entry, mail } = await openMessage(platform, actor, params.id);
      const { reply, note, instead } = body;
      const calendar = calendarPart(mail);
      if (!calendar) throw new Problem(409, 'no-invitation', 'This mail carries no invitation.');
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
    },
    // A mail or a calendar file that somebody has, as if it had just come in.
    'POST /api/mailroom/drop': async ({ actor: { me }, ctx }) => {
      const letter = await readMail(await rawBody(ctx.req));
      const to =
        letter.to.find((one) => one.startsWith('answers+')) ??
        letter.to.find((one) => one.toLowerCase() === me.email.toLowerCase()) ??
        '';
      return receiveMail(platform, letter, to, me);
    },
  };
});

/** At most so much is read of what is dropped; more is refused. */
async function rawBody(stream: AsyncIterable<Buffer>): Promise<Buffer> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of stream) {
    size += part.length;
    if (size > MOST_MAIL_BYTES)
      throw new Problem(413, 'too-large', 'A mail may be at most 2 MB large.');
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

async function openMessage(platform: Platform, { me }: PersonActor, id: string) {
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
