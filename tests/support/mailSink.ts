import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';

/** A letter that a mail server took. */
export interface TakenLetter {
  to: string;
  messageId: string;
  /** As it came over the wire. */
  source: string;
}

/** A real mail server that takes everything and keeps whom it was for. */
export async function mailSink(): Promise<{
  url: string;
  taken: TakenLetter[];
  end: () => Promise<void>;
}> {
  const taken: TakenLetter[] = [];
  const server = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    logger: false,
    onData(stream, session, done) {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('end', () => {
        const source = Buffer.concat(parts).toString();
        const messageId = /^Message-ID:\s*(\S+)/im.exec(source)?.[1] ?? '';
        for (const { address } of session.envelope.rcptTo)
          taken.push({ to: address, messageId, source });
        done();
      });
    },
  });
  // Whoever is killed in the middle of a conversation leaves it broken.
  server.on('error', () => undefined);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.server.address() as AddressInfo;
  return {
    url: `smtp://127.0.0.1:${port}`,
    taken,
    end: () => new Promise<void>((resolve) => server.close(() => resolve())),
  };
}
