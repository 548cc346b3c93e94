import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { afterEach, describe, expect, it } from 'vitest';
import { changed, readAgain, readAgainIfBefore } from './readAgain.ts';

const clients: QueryClient[] = [];
afterEach(() => {
  for (const client of clients.splice(0)) client.clear();
});

/** A window that shows something of the server's, whose answers the test gives. */
function showing(queryKey: readonly unknown[]) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  clients.push(client);
  const asked: { answer: (text: string) => void; refuse: () => void }[] = [];
  const observer = new QueryObserver<string>(client, {
    queryKey,
    staleTime: Infinity,
    queryFn: () =>
      new Promise((resolve, reject) =>
        asked.push({ answer: resolve, refuse: () => reject(new Error('no')) }),
      ),
  });
  const leave = observer.subscribe(() => undefined);
  const settled = () => new Promise((resolve) => setTimeout(resolve, 5));
  return { client, asked, leave, settled, shown: () => observer.getCurrentResult().data };
}

describe('what is read again after a notice', () => {
  it('is what the notice concerns', async () => {
    const { client, asked, settled, shown } = showing(['GET /api/reminders', {}]);
    asked[0]!.answer('none');
    await settled();
    readAgain(client, ['calendar:7']);
    await settled();
    expect(asked).toHaveLength(1);
    readAgain(client, ['reminders:7', 'notifications:7']);
    await settled();
    expect(asked).toHaveLength(2);
    asked[1]!.answer('two');
    await settled();
    expect(shown()).toBe('two');
  });

  it('is what shows something of a kind that was changed here, whatever else is given with it', async () => {
    const { client, asked, settled } = showing(['GET /api/places/board', { query: { date: 'x' } }]);
    asked[0]!.answer('none');
    await settled();
    await changed(client, 'meeting', 'notifications');
    expect(asked).toHaveLength(1);
    void changed(client, 'calendar', 'resource');
    await settled();
    expect(asked).toHaveLength(2);
  });

  it('is also what is being read for the first time, once however many notices come', async () => {
    const { client, asked, settled, shown } = showing(['GET /api/reminders', {}]);
    readAgain(client, ['reminders:7']);
    readAgain(client, ['reminders:7']);
    readAgain(client, ['*']);
    asked[0]!.answer('from before it');
    await settled();
    expect(asked).toHaveLength(2);
    asked[1]!.answer('from after it');
    await settled();
    expect(asked).toHaveLength(2);
    expect(shown()).toBe('from after it');
  });

  it('is read again too where its first reading failed', async () => {
    const { client, asked, settled, shown } = showing(['GET /api/calendar', 'October']);
    readAgain(client, ['resource:3']);
    asked[0]!.refuse();
    await settled();
    expect(asked).toHaveLength(2);
    asked[1]!.answer('October');
    await settled();
    expect(shown()).toBe('October');
  });

  it('is not read for anybody when nobody shows it any more', async () => {
    const { client, asked, leave, settled } = showing(['GET /api/bookings/mine', {}]);
    readAgain(client, ['notifications:7']);
    leave();
    asked[0]!.answer('none');
    await settled();
    expect(asked).toHaveLength(1);
  });

  it('begins anew what is being read again', async () => {
    const { client, asked, settled, shown } = showing(['GET /api/mailroom', 'pages']);
    asked[0]!.answer('none');
    await settled();
    readAgain(client, ['mailroom:all']);
    readAgain(client, ['mailroom:all']);
    await settled();
    asked[1]!.answer('from before it');
    asked[2]!.answer('from after it');
    await settled();
    expect(asked).toHaveLength(3);
    expect(shown()).toBe('from after it');
  });

  it('is only what was read before an instant, where one is said', async () => {
    const { client, asked, settled } = showing(['GET /api/places', 'pages']);
    asked[0]!.answer('all');
    await settled();
    readAgainIfBefore(client, ['resource:all'], Date.now() - 60_000);
    await settled();
    expect(asked).toHaveLength(1);
    readAgainIfBefore(client, ['resource:all'], Date.now() + 1);
    await settled();
    expect(asked).toHaveLength(2);
  });
});
