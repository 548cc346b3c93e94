import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';
import { guestKey, readAnswerAddress } from '../participants/index.ts';
import { sqlState } from '../db/transaction.ts';
import { findContacts } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import { MOST_MAIL_BYTES } from './limits.ts';
import { LMTP_SILENT_MS, MOST_LMTP_CLIENTS, MOST_RECIPIENTS } from './limits.ts';
import { readMail, takeMail } from './receive.ts';

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

/** Answers for each receiver by itself (RFC 2033 section 4.2), which the server's types do not know of. */
const taken = (done: (error: Error | null) => void, answers: readonly (string | Error)[]): void =>
  (done as (error: null, answers: readonly (string | Error)[]) => void)(null, answers);

const refusal = (code: number, sentence: string) =>
  Object.assign(new Error(sentence), { responseCode: code });

/**
 * Takes a letter for everybody to whom it came, each by themselves: what cannot be taken for one is handed over
 * again for that one alone.
 * @returns what the mail server is answered of each, in their order
 */
async function takeFor(
  platform: Platform,
  source: Buffer,
  recipients: readonly string[],
): Promise<(string | Error)[]> {
  const letter = await readMail(source);
  const answers: (string | Error)[] = [];
  for (const address of recipients)
    answers.push(
      await takeMail(platform, letter, address).then(
        () => 'taken',
        (error: unknown) => {
          platform.log.warn({ error, messageId: letter.messageId }, 'a mail could not be taken');
          // What cannot be kept today cannot be kept tomorrow: it is not to be handed over again.
          return sqlState(error)?.startsWith('22')
            ? refusal(554, 'It holds something that cannot be kept.')
            : refusal(451, 'It could not be taken just now; try again later.');
        },
      ),
    );
  return answers;
}

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
    onRcptTo({ address }, session, done) {
      if (session.envelope.rcptTo.length >= MOST_RECIPIENTS)
        return done(
          refusal(452, `At most ${MOST_RECIPIENTS} at once; hand it over to the rest next.`),
        );
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
          (answers) => taken(done, answers),
          (error: unknown) => {
            platform.log.warn({ error }, 'a mail could not be read');
            done(refusal(451, 'It could not be read just now; try again later.'));
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
