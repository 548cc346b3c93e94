import { z } from 'zod';
import { idInPath, subjectId, text } from './common.ts';
import { eventPath } from './events.ts';

export const COMMENT_MOST = 4000;

const words = text(COMMENT_MOST).refine((value) => value !== '', 'must not be empty');

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

export interface Comment {
  id: number;
  authorId: number;
  author: string;
  /** Plain text; whoever is spoken to stands in it as `@Name`. */
  words: string;
  /** The names of those who are spoken to. */
  mentions: string[];
  at: number;
  changedAt: number | null;
  /** Whether it is mine to change, and mine to remove. */
  canChange: boolean;
  canRemove: boolean;
}

export interface CommentsResponse {
  /** In the order in which they were written. */
  comments: Comment[];
  /** Who reads what I write here: everybody of this organisation who takes part, or the organizer alone. */
  readBy: 'everybody' | 'organizer';
  organizer: string;
  /** Who can be spoken to. */
  people: { id: number; name: string }[];
}
