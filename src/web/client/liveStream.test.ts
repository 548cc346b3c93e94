import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { LiveStream } from './liveStream.ts';

const CONNECTING = 0;
const CLOSED = 2;

/** A browser's stream whose server does what the test says. */
class FakeSource extends EventTarget {
  static readonly CLOSED = CLOSED;
  readyState = CONNECTING;
  constructor(readonly subjects: readonly string[]) {
    super();
  }
  close() {
    this.readyState = CLOSED;
  }
  say(kind: 'ready' | 'changed' | 'alive', notice: string[] = []) {
    this.readyState = 1;
    this.dispatchEvent(new MessageEvent(kind, { data: JSON.stringify(notice) }));
  }
  fail(readyState: typeof CONNECTING | typeof CLOSED) {
    this.readyState = readyState;
    this.dispatchEvent(new Event('error'));
  }
}

beforeEach(() => {
  vi.useFakeTimers({ now: 1_000_000 });
  vi.stubGlobal('EventSource', FakeSource);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

function window() {
  const opened: FakeSource[] = [];
  const heard: (string | [string, number])[] = [];
  const reached: boolean[] = [];
  const stream = new LiveStream({
    connect: (subjects) => {
      const source = new FakeSource(subjects);
      opened.push(source);
      return source as unknown as EventSource;
    },
    changed: (notice) => heard.push(notice.join()),
    outOfDate: (subjects, before) => heard.push([subjects.join(), before]),
    refused: () => undefined,
    reached: (isReached) => reached.push(isReached),
  });
  return {
    stream,
    opened,
    heard,
    reached,
    last: () => opened.at(-1)!,
    open: () => opened.filter((one) => one.readyState !== CLOSED).length,
    shows(...subjects: string[]) {
      stream.show(subjects);
      vi.advanceTimersByTime(150);
    },
  };
}

/** A window whose first stream is open. */
function listening(...subjects: string[]) {
  const one = window();
  one.stream.resume();
  one.last().say('ready');
  if (subjects.length > 0) {
    one.shows(...subjects);
    one.last().say('ready');
  }
  one.heard.length = 0;
  return one;
}

describe('a window’s stream', () => {
  it('says what changed', () => {
    const { last, heard } = listening();
    last().say('changed', ['calendar:4']);
    expect(heard).toEqual(['calendar:4']);
  });

  it('opens one at a time, also while the one before is not open yet', () => {
    const { shows, opened, open, last, heard } = listening();
    shows('resource:1');
    shows('resource:1', 'resource:2');
    expect(open()).toBe(1);
    opened[1]!.say('ready');
    expect(heard).toEqual([]);
    last().say('ready');
    expect(last().subjects).toEqual(['resource:1', 'resource:2']);
    // What either of them was opened for may have been read long before.
    expect(heard).toEqual([['resource:1,resource:2', Date.now() - 2_000]]);
  });

  it('asks once for what is shown step after step, and not again for less', () => {
    const { stream, shows, opened } = listening();
    stream.show(['resource:1']);
    vi.advanceTimersByTime(100);
    stream.show(['resource:1', 'resource:2']);
    vi.advanceTimersByTime(150);
    expect(opened).toHaveLength(2);
    shows('resource:2');
    expect(opened).toHaveLength(2);
  });

  it('reads everything anew when the first stream opened too late to hear what came before', () => {
    const { stream, last, heard } = window();
    stream.resume();
    vi.advanceTimersByTime(2_001);
    last().say('ready');
    expect(heard).toEqual(['*']);
  });

  it('and when the next one did', () => {
    const { shows, last, heard } = listening();
    shows('resource:1');
    vi.advanceTimersByTime(2_001);
    last().say('ready');
    expect(heard).toEqual(['*']);
  });

  it('leaves it to the browser to try a broken one again, and then reads everything anew', () => {
    const { opened, last, heard } = listening('resource:1');
    last().fail(CONNECTING);
    vi.advanceTimersByTime(30_000);
    expect(opened).toHaveLength(2);
    last().say('ready');
    expect(heard).toEqual(['*']);
  });

  it('asks again for one that was refused, less and less often', () => {
    const { opened, last, heard } = listening('resource:1');
    const pauses: number[] = [];
    for (let tries = 0; tries < 8; tries++) {
      last().fail(CLOSED);
      const [before, at] = [opened.length, Date.now()];
      while (opened.length === before) vi.advanceTimersByTime(100);
      pauses.push(Date.now() - at);
    }
    pauses.forEach((pause, k) => {
      const most = Math.min(1_000 * 2 ** k, 30_000);
      expect(pause).toBeGreaterThanOrEqual(most / 2);
      expect(pause).toBeLessThanOrEqual(most + 100);
    });
    expect(last().subjects).toEqual(['resource:1']);
    last().say('ready');
    expect(heard).toEqual(['*']);
    last().fail(CLOSED);
    vi.advanceTimersByTime(1_000);
    expect(opened).toHaveLength(11);
  });

  it('takes one for dead that says nothing for a minute', () => {
    const { opened, last, heard } = listening();
    for (let k = 0; k < 10; k++) {
      vi.advanceTimersByTime(25_000);
      last().say('alive');
    }
    expect(opened).toHaveLength(1);
    vi.advanceTimersByTime(60_000);
    expect(opened).toHaveLength(2);
    last().say('ready');
    expect(heard).toEqual(['*']);
  });

  it('holds none while it pauses, and goes on with what is shown then', () => {
    const { stream, shows, opened, open, last, heard } = listening('resource:1');
    stream.pause();
    shows('resource:2');
    vi.advanceTimersByTime(120_000);
    expect([opened.length, open()]).toEqual([2, 0]);
    stream.resume();
    stream.resume();
    expect(open()).toBe(1);
    expect(last().subjects).toEqual(['resource:2']);
    last().say('ready');
    expect(heard).toEqual(['*']);
  });

  it('has missed nothing by a pause of a second', () => {
    const { stream, last, heard } = listening('resource:1');
    stream.pause();
    vi.advanceTimersByTime(1_000);
    stream.resume();
    last().say('ready');
    expect(heard).toEqual([]);
  });

  it('ends', () => {
    const { stream, opened, open, last } = listening('resource:1');
    last().fail(CLOSED);
    stream.show(['resource:3']);
    stream.end();
    vi.advanceTimersByTime(200_000);
    expect([opened.length, open()]).toEqual([2, 0]);
  });

  it('says when the server is not heard of any more, and when it is again', () => {
    const one = listening('calendar:1');
    one.reached.length = 0;
    one.last().fail(CLOSED);
    expect(one.reached).toEqual([false]);
    vi.advanceTimersByTime(1_000);
    one.last().say('ready');
    expect(one.reached).toEqual([false, true]);
  });
});
