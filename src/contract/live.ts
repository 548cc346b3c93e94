import { z } from 'zod';
import { defineRoutes, file } from './route.ts';
import { MOST_LISTENED_TO } from './limits.ts';

/**
 * What a window can show and hear of: somebody's calendar, a resource, a meeting, what is a person's
 * own (their session, preferences, categories), their reminders and notifications, the Mailroom, and the
 * `directory` of people, teams and sites. `resource:all` is every resource.
 */
export const LIVE_SUBJECT_KINDS = [
  'calendar',
  'resource',
  'meeting',
  'person',
  'reminders',
  'notifications',
  'mailroom',
  'directory',
] as const;
export type LiveSubjectKind = (typeof LIVE_SUBJECT_KINDS)[number];

/** `?subjects=calendar:5,resource:all`; my own calendar and reminders are heard of in any case. */
export const liveQuery = z.strictObject({
  subjects: z
    .string()
    .max(60_000, 'may be at most 60000 characters long')
    .default('')
    .transform((text) => (text ? [...new Set(text.split(','))] : []))
    .pipe(
      z
        .array(
          z
            .string()
            .regex(
              /^((calendar|person):\d{1,9}|resource:(\d{1,9}|all)|meeting:[0-9a-f-]{36}|(mailroom|directory):all)$/,
              'must name what is shown, such as calendar:42, resource:7, resource:all or meeting:…',
            ),
        )
        .max(MOST_LISTENED_TO, `may name at most ${MOST_LISTENED_TO}`),
    ),
});

/** An event of the stream: subjects that changed, or `*` when something may have been missed. */
export type LiveNotice = string[] | ['*'];

/** /api/live: a stream that names what changed of what somebody shows, as far as they may see it. */
export const liveRoutes = defineRoutes({
  'GET /api/live': {
    may: 'read shared',
    cost: 'stream',
    query: liveQuery,
    answer: file('text/event-stream'),
  },
});
