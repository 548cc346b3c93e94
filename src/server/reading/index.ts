/** How what comes from outside (mail, calendars, files, pasted lists) is read: apart from everybody's answers. */
export { reader } from './pool.ts';
