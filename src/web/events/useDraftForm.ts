import { zodResolver } from '@hookform/resolvers/zod';
import { useMemo } from 'react';
import type { Resolver } from 'react-hook-form';
import { z } from 'zod';
import { newFields } from '../../contract/eventParts.ts';
import { readTimes } from '../../core/time/typedTimes.ts';
import { useKeptForm, type KeptForm, typedTimes } from '../forms/index.ts';
import { useNowMinutes } from '../time/index.ts';
import { repeatingProblem, type Draft, type Repeating } from '../meetings/index.ts';

/**
 * What may stand in an event's form, by the contract of what is sent; what is only a form's (times as
 * they are typed, a rule that is being put together) is judged by what it would be sent as.
 * @param nowMinutes minutes after midnight at present, for times such as “in 20 min”
 */
const draftSchema = (nowMinutes: number) => {
  return z
    .looseObject({
      ...newFields,
      typed: typedTimes(nowMinutes),
      repeating: z.custom<Repeating>(),
    })
    .superRefine(({ typed, repeating }, ctx) => {
      const { times } = readTimes(typed, nowMinutes);
      const problem = times && repeatingProblem(repeating, times.startsAt);
      if (problem) ctx.addIssue({ code: 'custom', path: ['repeating'], message: problem });
    });
};

export type DraftForm = KeptForm<Draft>;

/** The form of an event, made or changed, whose content outlives it; see `useKeptForm`. */
export function useDraftForm(name: string, initial: Draft, begun?: Draft): DraftForm {
  const nowMinutes = useNowMinutes(initial.typed.zone);
  const resolver = useMemo(
    () => zodResolver(draftSchema(nowMinutes)) as unknown as Resolver<Draft>,
    [nowMinutes],
  );
  return useKeptForm<Draft>({ name, initial, begun, resolver });
}
