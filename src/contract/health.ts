/** What waits: how much, and for how long the oldest of it. */
export interface Waiting {
  count: number;
  oldestSeconds: number;
}

/** How a server is, for those who run it. */
export interface Health {
  ok: boolean;
  database: 'answers' | 'away';
  /** Jobs that are due; null where nobody can say. */
  jobs: Waiting | null;
  /** Letters that have not gone out, those that wait for another try among them. */
  letters: Waiting | null;
}
