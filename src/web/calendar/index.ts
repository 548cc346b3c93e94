/** The calendar’s views, and its strip through the seasons. */
export { SeasonStrip } from './SeasonStrip.tsx';
export { useHolidays } from './useCalendar.ts';
