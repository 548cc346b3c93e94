import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { LiveTopic } from '../../contract/live.ts';

/** Reads again what the server says has changed; after a break everything is read again. */
export function useLive(): void {
  const client = useQueryClient();
  useEffect(() => {
    const stream = new EventSource('/api/live');
    let broken = false;
    stream.addEventListener('changed', (event: MessageEvent<string>) => {
      for (const topic of JSON.parse(event.data) as LiveTopic[]) {
        void client.invalidateQueries({ queryKey: [topic] });
      }
    });
    stream.addEventListener('error', () => (broken = true));
    stream.addEventListener('open', () => {
      if (broken) void client.invalidateQueries();
      broken = false;
    });
    return () => stream.close();
  }, [client]);
}
