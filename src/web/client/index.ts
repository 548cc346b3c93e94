/** What every view and the shell use: asking the server, the session, what is live, undo, what is kept. */
export {
  addressOf,
  ApiProblem,
  callApi,
  errorText,
  isUnreachable,
  sendFile,
  takeFile,
  UserError,
} from './api.ts';
export { answerTo } from './answers.ts';
export { calendarItems } from './calendarItems.ts';
export { DemonstrationNote } from './DemonstrationNote.tsx';
export { Failure } from './Failure.tsx';
export { forget, forgetAll, keep, kept, keptUnder } from './kept.ts';
export { useLive, useShown } from './live.ts';
export { useChanged } from './readAgain.ts';
export {
  forWhom,
  may,
  SignedInContext,
  useChangePreferences,
  useMe,
  useNow,
  usePreferences,
  useSession,
  useSignOut,
} from './session.ts';
export { tellTabs, useSignedOut } from './signedOut.ts';
export { takeBackTogether, takeChangesBack } from './takeBackTogether.ts';
export { applyTheme, readTheme, setTheme, type Theme } from './theme.ts';
export { offerUndo, undoable, undoLatest } from './undo.ts';
export { useKept, useKeptText } from './useKeptText.ts';
export { usePages } from './usePages.ts';
export { useStable } from './useStable.ts';
export { useAddressQuery } from './useAddressQuery.ts';
export { doInOrder, useDrawn, useWaiting } from './ownActs.ts';
export { useIsAway } from './reached.ts';
