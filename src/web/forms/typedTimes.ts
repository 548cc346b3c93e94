import { z } from 'zod';
import { readTimes, type TypedTimes } from '../../core/time/typedTimes.ts';

/**
 * Times as they are typed in a form, judged by what they would be sent as.
 * @param nowMinutes minutes after midnight at present, for times such as “in 20 min”
 */
export const typedTimes = (nowMinutes?: number) =>
  z.custom<TypedTimes>().superRefine((typed, ctx) => {
    for (const [field, message] of Object.entries(readTimes(typed, nowMinutes).errors))
      ctx.addIssue({ code: 'custom', path: [field], message });
  });
