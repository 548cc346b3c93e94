import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { LiveNotice } from '../../contract/live.ts';

/** More than this no window names; it then hears of what is its person's own. */
const MOST_SUBJECTS = 2_000;
/** A window that changes what it shows, step after step, asks once for all of it. */
const SETTLE_MS = 150;

/** What the parts of this window show, with how many of them do. */
const shown = new Map<string, number>();
let changed: () => void = () => undefined;

/** Hears of changes to what a view shows, such as `calendar:42` or `resource:all`, while it does. */
export function useShown(subjects: readonly string[]): void {
  const key = [...new Set(subjects)].sort().join();
  useEffect(() => {
    const list = key ? key.split(',') : [];
    for (const one of list) shown.set(one, (shown.get(one) ?? 0) + 1);
    changed();
    return () => {
      for (const one of list) {
        const left = shown.get(one)! - 1;
        if (left > 0) shown.set(one, left);
        else shown.delete(one);
      }
      changed();
    };
  }, [key]);
}

/** What is read again when something changed, by the kind of what changed. */
const READ_AGAIN: Record<string, string[][]> = {
  calendar: [['calendar'], ['invitations'], ['replies'], ['bookings']],
  resource: [
    ['places'],
    ['calendar', 'items'],
    ['calendar', 'busy'],
    ['calendar', 'rooms'],
    ['bookings'],
  ],
  meeting: [['calendar', 'event'], ['invitations'], ['replies'], ['comments']],
  person: [['waiting'], ['session'], ['calendar'], ['line-ups'], ['places', 'board']],
  reminders: [['reminders']],
  notifications: [['notifications'], ['bookings']],
  mailroom: [['mailroom']],
};

function readAgain(client: QueryClient, notice: LiveNotice) {
  if (notice[0] === '*') {
    void client.invalidateQueries();
    return;
  }
  const kinds = new Set(notice.map((subject) => subject.split(':')[0]!));
  for (const kind of kinds) {
    for (const queryKey of READ_AGAIN[kind] ?? []) void client.invalidateQueries({ queryKey });
  }
}

/**
 * Reads again what the server says has changed of what this window shows. When it shows something
 * else another stream is opened, the old one being heard until then; what was read before the new one
 * was open is read again, and after a break everything is.
 */
export function useLive(): void {
  const client = useQueryClient();
  useEffect(() => {
    let stream: EventSource | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let heard = new Set<string>();
    const open = () => {
      const subjects = [...shown.keys()].sort().slice(0, MOST_SUBJECTS);
      const added = subjects.filter((one) => !heard.has(one));
      if (stream && added.length === 0 && subjects.length === heard.size) return;
      const query = subjects.length ? `?subjects=${subjects.join(',')}` : '';
      const next = new EventSource(`/api/live${query}`);
      const before = stream;
      stream = next;
      heard = new Set(subjects);
      let broken = false;
      next.addEventListener('changed', (event: MessageEvent<string>) =>
        readAgain(client, JSON.parse(event.data) as LiveNotice),
      );
      next.addEventListener('error', () => (broken = true));
      next.addEventListener('ready', () => {
        before?.close();
        if (broken) readAgain(client, ['*']);
        else if (before && added.length > 0) readAgain(client, added);
        broken = false;
      });
    };
    changed = () => {
      clearTimeout(timer);
      timer = setTimeout(open, SETTLE_MS);
    };
    open();
    return () => {
      changed = () => undefined;
      clearTimeout(timer);
      stream?.close();
    };
  }, [client]);
}
