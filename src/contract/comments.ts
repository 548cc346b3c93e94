import { z } from 'zod';
import { idInPath, subjectId, text } from './common.ts';
import { eventPath } from './events.ts';
import { defineRoutes } from './route.ts';
import { MOST_OF_COMMENT } from './limits.ts';

const words = text(MOST_OF_COMMENT).refine((value) => value !== '', 'must not be empty');

export const commentRequest = z.strictObject({
  words,
  /** Those who are spoken to, of whom it takes part; they hear of it as such. */
  mentions: z
    .array(subjectId, { error: 'must be a list of ids' })
    .max(50, 'may name at most 50 people')
    .refine((ids) => new Set(ids).size === ids.length, 'must not name anybody twice')
    .default([]),
});
export type CommentRequest = z.input<typeof commentRequest>;
export type NewComment = z.output<typeof commentRequest>;

export const changeCommentRequest = z.strictObject({ words });

export const commentPath = eventPath.extend({ comment: idInPath });

export const comment = z.strictObject({
  id: z.int(),
  authorId: z.int(),
  author: z.string(),
  /** Plain text; whoever is spoken to stands in it as `@Name`. */
  words: z.string(),
  /** The names of those who are spoken to. */
  mentions: z.array(z.string()),
  at: z.int(),
  changedAt: z.int().nullable(),
  /** Whether it is mine to change, and mine to remove. */
  canChange: z.boolean(),
  canRemove: z.boolean(),
});
export type Comment = z.output<typeof comment>;

export const commentsResponse = z.strictObject({
  /** In the order in which they were written. */
  comments: z.array(comment),
  /** Who reads what I write here: everybody of this organisation who takes part, or the organizer alone. */
  readBy: z.enum(['everybody', 'organizer']),
  organizer: z.string(),
  /** Who can be spoken to. */
  people: z.array(
    z.strictObject({
      id: z.int(),
      name: z.string(),
    }),
  ),
});
export type CommentsResponse = z.output<typeof commentsResponse>;

/** /api/events/:id/comments: what is said about a meeting, saying, changing and removing it. */
export const commentsRoutes = defineRoutes({
  'GET /api/events/:id/comments': {
    may: 'discuss event',
    params: eventPath,
    answer: commentsResponse,
    replica: true,
  },
  'POST /api/events/:id/comments': {
    may: 'discuss event',
    params: eventPath,
    body: commentRequest,
    answer: commentsResponse,
    status: 201,
  },
  'PATCH /api/events/:id/comments/:comment': {
    may: 'discuss event',
    params: commentPath,
    body: changeCommentRequest,
    answer: commentsResponse,
  },
  'DELETE /api/events/:id/comments/:comment': {
    may: 'discuss event',
    params: commentPath,
    answer: commentsResponse,
  },
  'POST /api/events/:id/comments/:comment/restore': {
    may: 'discuss event',
    params: commentPath,
    answer: commentsResponse,
  },
});
