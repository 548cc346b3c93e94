/** Fields for days, times and zones, typed or picked. */
export { DayField } from './DayField.tsx';
export { TimesFields, ZoneField, useNowMinutes } from './TimesFields.tsx';
export { parseDay } from './typedDay.ts';
export {
  readTimes,
  retyped,
  typedFrom,
  useTyped,
  type ReadTimes,
  type TypedTimes,
} from './useTyped.ts';
