/** What several views share about a meeting: reading it, its draft, what is done to it, and the questions asked before. */
export { AskDialog, type Question } from './AskDialog.tsx';
export { CancelButton } from './CancelButton.tsx';
export {
  blankDraft,
  copyOf,
  draftFor,
  draftOf,
  NOT_REPEATING,
  repeatsOf,
  sameDraft,
  type CarriedDraft,
  type Draft,
} from './draft.ts';
export { offerEventUndo, versionNow } from './eventUndo.ts';
export { PartChoice } from './PartChoice.tsx';
export { RecurrenceEditor } from './recurrence/RecurrenceEditor.tsx';
export { repeatingProblem, usualRule, type Repeating } from './recurrence/repeating.ts';
export { RemindersField, reminderWords } from './RemindersField.tsx';
export { TakenDates, takenDatesIn } from './TakenDates.tsx';
export { eventAddress, useEvent } from './useEvent.ts';
export { useEventActions } from './useEventActions.ts';
export { occurrenceName, useMove, type ShownAt } from './useMove.ts';
export { WhoseField } from './WhoseField.tsx';
