/** Forms whose content outlives them. */
export { useKeptForm, type Difference, type KeptForm } from './useKeptForm.ts';
export { typedTimes } from './typedTimes.ts';
export { GoOn } from './GoOn.tsx';
export { focusInvalid } from './focusInvalid.ts';
