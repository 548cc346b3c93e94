/** Fields for days, times and zones, typed or picked. */
export { DayField } from './DayField.tsx';
export { TimesFields, useNowMinutes } from './TimesFields.tsx';
export { parseShifts, WeekHours } from './WeekHours.tsx';
export { ZoneChoice, ZoneField } from './ZoneField.tsx';
export { PickDay } from './PickDay.tsx';
export { useFullness } from './useFullness.ts';
export { parseDay } from './typedDay.ts';
export { pastWords, usePastAsk } from './usePastAsk.tsx';
export { useHolidays, type DayOff } from './useHolidays.ts';
export { SeasonStrip } from './SeasonStrip.tsx';
export { LengthField } from './LengthField.tsx';
