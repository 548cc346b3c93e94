/** What changed, as the live stream names it; the interface reads those things again. */
export const LIVE_TOPICS = [
  'calendar',
  'invitations',
  'replies',
  'places',
  'mailroom',
  'session',
] as const;
export type LiveTopic = (typeof LIVE_TOPICS)[number];
