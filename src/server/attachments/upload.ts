import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream, rmSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import type { IncomingMessage } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Transform, type Readable, type Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Problem } from '../http/index.ts';
import { reader } from '../reading/index.ts';
import { LONGEST_UPLOAD_MS, MOST_FILE_BYTES } from './limits.ts';

const DISK_IS_FULL = 'ENOSPC';

/**
 * Looks into a file that was sent: the type of what is inside, where its name says the same; of a file without
 * a name, whatever is inside. Null where it is none that is known, or not what its name says.
 */
export const typeOfFile = reader<{ path: string; name: string | null }, string | null>(
  new URL('./fileType.worker.ts', import.meta.url),
  'The file',
);

let folder: Promise<string> | undefined;

/** A folder of this process alone, gone with it. */
async function ownFolder(): Promise<string> {
  const made = await mkdtemp(path.join(tmpdir(), 'marmot-uploads-'));
  process.once('exit', () => rmSync(made, { recursive: true, force: true }));
  return made;
}

/** A file that was sent, kept on disk until it is in the database: memory does not grow with their number. */
export interface Upload {
  path: string;
  size: number;
  /** SHA-256 of its bytes. */
  digest: Buffer;
  forget(): Promise<void>;
}

/**
 * Receives the body of a request into a file.
 * @param open opens the file that is written
 * @throws Problem 413 when it is larger than allowed, 507 when there is no room for it
 */
export async function receive(
  request: Readable,
  open: (name: string) => Writable = (name) => createWriteStream(name, { mode: 0o600 }),
): Promise<Upload> {
  folder ??= ownFolder();
  const name = path.join(await folder, randomUUID());
  const hash = createHash('sha256');
  let size = 0;
  const measured = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length;
      hash.update(chunk);
      // The rest is read and dropped, so that the answer is heard.
      done(null, size <= MOST_FILE_BYTES ? chunk : undefined);
    },
  });
  const forget = () => rm(name, { force: true });
  try {
    await pipeline(request, measured, open(name), {
      signal: AbortSignal.timeout(LONGEST_UPLOAD_MS),
    });
    if (size > MOST_FILE_BYTES) throw tooLarge();
    return { path: name, size, digest: hash.digest(), forget };
  } catch (error) {
    await forget();
    if (error instanceof Error && 'code' in error && error.code === DISK_IS_FULL) throw noRoom();
    throw error;
  }
}

/** @throws Problem 413 when a request says itself that it is larger than allowed */
export function refuseTooLarge(request: IncomingMessage): void {
  if (Number(request.headers['content-length'] ?? 0) > MOST_FILE_BYTES) throw tooLarge();
}

const tooLarge = () =>
  new Problem(413, 'too-large', 'A file may be at most 10 MB; this one is larger.', {
    fields: [{ field: 'file', message: 'may be at most 10 MB' }],
  });

const noRoom = () =>
  new Problem(507, 'no-room', 'There is no room for this file right now. Nothing was changed.', {
    fields: [{ field: 'file', message: 'cannot be kept right now' }],
  });
