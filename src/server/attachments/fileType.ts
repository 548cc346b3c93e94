import path from 'node:path';
import { fileTypeFromBuffer } from 'file-type';

/** Kinds of file that may be attached, by the name's ending; what is inside must be of that kind. */
const KINDS: Record<string, string> = {
  pdf: 'application/pdf',
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  pptx: 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
  odt: 'application/vnd.oasis.opendocument.text',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
  odp: 'application/vnd.oasis.opendocument.presentation',
  zip: 'application/zip',
};
const TEXTS: Record<string, string> = {
  txt: 'text/plain',
  md: 'text/markdown',
  csv: 'text/csv',
  ics: 'text/calendar',
};

export const ALLOWED_ENDINGS = [...Object.keys(KINDS), ...Object.keys(TEXTS)];

function isText(content: Buffer): boolean {
  if (content.includes(0)) return false;
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(content);
    return true;
  } catch {
    return false;
  }
}

/** The type of what is inside a file; null where it is none that is known. */
export const contentType = async (content: Buffer): Promise<string | null> =>
  (await fileTypeFromBuffer(content))?.mime ?? null;

/** The type of a file, from its name and from what is really inside; null when they do not agree. */
export async function attachmentType(name: string, content: Buffer): Promise<string | null> {
  const ending = path.extname(name).slice(1).toLowerCase();
  if (TEXTS[ending]) return isText(content) ? `${TEXTS[ending]}; charset=utf-8` : null;
  const found = await contentType(content);
  return found !== null && KINDS[ending] === found ? found : null;
}
