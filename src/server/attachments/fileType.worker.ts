import { readFile } from 'node:fs/promises';
import { asWorker } from '../reading/worker.ts';
import { attachmentType, contentType } from './fileType.ts';

/** Looks into a file that was sent. */
export default asWorker(async ({ path, name }: { path: string; name: string | null }) => {
  const content = await readFile(path);
  return name === null ? contentType(content) : attachmentType(name, content);
});
