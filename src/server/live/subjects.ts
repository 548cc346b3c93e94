import type { LiveSubjectKind } from '../../contract/live.ts';
import { MOST_NOTICE_BYTES } from './limits.ts';

/** The channel of PostgreSQL on which notices go to every server. */
export const CHANNEL = 'marmot_live';

/** Every resource, for a window that shows them all. */
export const ALL_RESOURCES = 'resource:all';
/** The people, teams and sites there are, which everybody may look up. */
export const DIRECTORY = 'directory:all';

/** How what somebody shows is named: `calendar:42`, `resource:7`, `meeting:…`, `person:42`. */
export const subjectOf = (kind: LiveSubjectKind, id: number | string): string => `${kind}:${id}`;

/** Subjects as notices, each small enough to be sent. */
export function liveNotices(subjects: readonly string[]): string[] {
  const notices: string[] = [];
  let part: string[] = [];
  let size = 0;
  for (const subject of subjects) {
    if (size + subject.length + 1 > MOST_NOTICE_BYTES) {
      notices.push(part.join(' '));
      [part, size] = [[], 0];
    }
    part.push(subject);
    size += subject.length + 1;
  }
  return part.length > 0 ? [...notices, part.join(' ')] : notices;
}
