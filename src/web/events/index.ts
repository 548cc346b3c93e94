/** Events: beside a view, on a page of their own, made, changed and cancelled. */
export { EventPanel } from './EventPanel.tsx';
export { NewEventPanel } from './NewEventPanel.tsx';
