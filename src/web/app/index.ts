/** What every view uses of the shell: asking the server, the session, what is live, undo. */
export { ApiProblem, errorText, readApi, Said, sendApi, sendFile, takeFile } from './api.ts';
export { calendarItems } from './calendarItems.ts';
export { DemonstrationNote } from './DemonstrationNote.tsx';
export { Failure } from './Failure.tsx';
export { forget, keep, kept, keptUnder } from './kept.ts';
export { useShown } from './live.ts';
export { may, useChangePreferences, useMe, useNow, usePreferences } from './session.ts';
export { takeBackTogether } from './takeBackTogether.ts';
export { applyTheme, setTheme } from './theme.ts';
export { offerUndo, undoable } from './undo.ts';
export { useKept, useKeptText } from './useKeptText.ts';
export { usePages } from './usePages.ts';
export { useStable } from './useStable.ts';
