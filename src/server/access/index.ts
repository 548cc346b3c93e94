/** The only place that decides what an actor may see and do. */
export { audible } from './audible.ts';
export { Levels, takesPart } from './levels.ts';
export { projectBooking, projectDetail, projectLayerItem, type BookingRow } from './project.ts';
