import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';
import { guestKey, readAnswerAddress } from '../participants/index.ts';
import { sqlState } from '../db/transaction.ts';
import { findContacts } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import { MOST_MAIL_BYTES } from './limits.ts';
import { readMail, receiveMail } from './receive.ts';
import { LMTP_SILENT_MS, MOST_LMTP_CLIENTS } from './limits.ts';

/** Only a mail server of this machine hands mail over. */
const HOST = '127.0.0.1';

export interface MailListener {
  port: number;
  end(): Promise<void>;
}

/** Whether a letter is answered at an address, or somebody of here reads it. */
async function isKnownAddress({ pool }: Platform, address: string): Promise<boolean> {
  if (readAnswerAddress(await guestKey(pool), address) !== null) return true;
  return (await findContacts(pool, { emails: [address] })).length > 0;
}

/** Takes a letter for everybody to whom it came. */
async function takeFor(platform: Platform, source: Buffer, recipients: readonly string[]) {
  const letter = await readMail(source);
  for (const address of recipients) await receiveMail(platform, letter, address);
}

const refusal = (code: number, sentence: string) =>
  Object.assign(new Error(sentence), { responseCode: code });

/**
 * Listens for mail that a mail server hands over (LMTP, RFC 2033), on loopback. Addresses that are no
 * letter's are refused at once; a mail that cannot be taken just now is to be handed over again.
 * @param port 0 takes a free one
 */
export async function startListener(platform: Platform, port: number): Promise<MailListener> {
  const server = new SMTPServer({
    lmtp: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    disableReverseLookup: true,
    size: MOST_MAIL_BYTES,
    maxClients: MOST_LMTP_CLIENTS,
    socketTimeout: LMTP_SILENT_MS,
    closeTimeout: 5_000,
    onRcptTo({ address }, _session, done) {
      isKnownAddress(platform, address).then(
        (known) =>
          done(
            known
              ? null
              : refusal(550, 'Nobody reads this address, and no letter is answered at it.'),
          ),
        () => done(refusal(451, 'Marmot cannot get at its data right now; try again later.')),
      );
    },
    onData(stream, session, done) {
      const parts: Buffer[] = [];
      let size = 0;
      stream.on('data', (part: Buffer) => {
        size += part.length;
        // What is too large is read to its end and dropped.
        if (size <= MOST_MAIL_BYTES) parts.push(part);
      });
      stream.on('end', () => {
        if (size > MOST_MAIL_BYTES || stream.sizeExceeded)
          return done(refusal(552, 'A mail may be at most 2 MB large.'));
        takeFor(
          platform,
          Buffer.concat(parts),
          session.envelope.rcptTo.map(({ address }) => address),
        ).then(
          () => done(null, 'taken'),
          (error: unknown) => {
            platform.log.warn({ error }, 'a mail could not be taken');
            // What cannot be kept today cannot be kept tomorrow: it is not to be handed over again.
            if (sqlState(error)?.startsWith('22'))
              return done(refusal(554, 'It holds something that cannot be kept.'));
            done(refusal(451, 'It could not be taken just now; try again later.'));
          },
        );
      });
    },
  });
  server.on('error', (error: Error) => platform.log.warn({ error }, 'handing over mail failed'));
  await new Promise<void>((resolve, reject) => {
    server.server.once('error', reject);
    server.listen(port, HOST, resolve);
  });
  return {
    port: (server.server.address() as AddressInfo).port,
    end: () => new Promise((resolve) => server.close(() => resolve())),
  };
}
