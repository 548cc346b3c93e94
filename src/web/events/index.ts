/** Events: beside a view, on a page of their own, made, changed and cancelled. */
export { AskDialog, type Question } from './AskDialog.tsx';
export { CancelButton, EventPanel, eventAddress, useEvent } from './EventPanel.tsx';
export { NewEventPanel } from './NewEventPanel.tsx';
export { RecurrenceEditor } from './recurrence/RecurrenceEditor.tsx';
export { repeatingProblem, type Repeating } from './recurrence/repeating.ts';
export { RemindersField } from './RemindersField.tsx';
export { TakenDates, takenDatesIn } from './TakenDates.tsx';
export { offerEventUndo, versionNow } from './eventUndo.ts';
export { draftFor, NOT_REPEATING, repeatsOf, type Draft } from './draft.ts';
export { useEventActions } from './useEventActions.ts';
export type { CarriedDraft } from './useNewEvent.ts';
export { useMove } from './useMove.ts';
export { WhoseField } from './WhoseField.tsx';
