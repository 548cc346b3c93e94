import type { JobDefinition } from '../jobs/index.ts';
import { FORGOTTEN_JOB } from './jobs.ts';
import { answerForgotten } from './links.ts';

/** Answers those who forgot their password, behind the answer that says as much to anybody. */
export const forgottenJob: JobDefinition = {
  kind: FORGOTTEN_JOB,
  atOnce: 2,
  timeLimitMs: 30_000,
  pausesMinutes: [1, 5],
  work: (platform, email) => answerForgotten(platform, email),
};
