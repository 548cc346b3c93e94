import type { LiveNotice } from '../../contract/live.ts';

/** More than this no window names; it then hears of what is its person's own. */
const MOST_SUBJECTS = 2_000;
/** A window that changes what it shows, step after step, asks once for all of it. */
const SETTLE_MS = 150;
/**
 * What changed so short a time before a stream is open, the server tells it (it remembers for longer):
 * who was without one for no longer than this has missed nothing.
 */
const COVERED_MS = 2_000;
/** The server says every 25 seconds that it is there; after this without a word it is not. */
const SILENT_MS = 60_000;
/** Until a stream that was refused is asked for again: twice as long each time. */
const AGAIN_MS = { first: 1_000, most: 30_000 };

interface Outside {
  connect(subjects: readonly string[]): EventSource;
  /** Something of these subjects changed, or anything may have (`*`). */
  changed(notice: LiveNotice): void;
  /** What was read of these subjects before an instant (epoch milliseconds) may be out of date. */
  outOfDate(subjects: readonly string[], before: number): void;
  /** The server answered and would not be listened to: whoever listens may be signed out. */
  refused(): void;
  /** Whether the server is heard of. */
  reached(isReached: boolean): void;
}

/**
 * What one window hears from the server: one stream at a time, since a browser has six connections to a
 * server for all its windows together. It is opened anew when the window shows something else, when it
 * was refused, and when it fell silent; what may have been missed meanwhile is said.
 */
export class LiveStream {
  private stream: EventSource | null = null;
  private heard: ReadonlySet<string> = new Set();
  private shown: readonly string[] = [];
  /** Which of what is shown was heard of by no stream before this one. */
  private added: string[] = [];
  /** Since when nothing is heard; null while a stream is open. Before the first one, views are read. */
  private deafSince: number | null = Date.now();
  private isBroken = false;
  private refusals = 0;
  private isPaused = false;
  private settling: ReturnType<typeof setTimeout> | undefined;
  private again: ReturnType<typeof setTimeout> | undefined;
  private silence: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly outside: Outside) {}

  /** Hears of these subjects from now on. */
  show(subjects: readonly string[]): void {
    this.shown = [...subjects].sort().slice(0, MOST_SUBJECTS);
    clearTimeout(this.settling);
    this.settling = setTimeout(() => {
      if (this.isPaused || this.shown.every((one) => this.heard.has(one))) return;
      this.open();
    }, SETTLE_MS);
  }

  /** Hears nothing until it goes on. */
  pause(): void {
    this.isPaused = true;
    this.close();
  }

  /** Opens the first stream, or goes on after a pause. */
  resume(): void {
    this.isPaused = false;
    if (!this.stream) this.open();
  }

  end(): void {
    clearTimeout(this.settling);
    this.close();
  }

  private close(): void {
    clearTimeout(this.again);
    clearTimeout(this.silence);
    this.stream?.close();
    this.stream = null;
    this.deafSince ??= Date.now();
  }

  private open(): void {
    this.close();
    const next = this.outside.connect(this.shown);
    this.stream = next;
    this.added = [...new Set([...this.added, ...this.shown.filter((one) => !this.heard.has(one))])];
    this.heard = new Set(this.shown);
    const hear = (kind: string, listener: (event: MessageEvent<string>) => void) =>
      next.addEventListener(kind, (event: MessageEvent<string>) => {
        if (next !== this.stream) return;
        this.listenFor();
        listener(event);
      });
    hear('ready', () => this.opened());
    hear('changed', ({ data }) => this.outside.changed(JSON.parse(data) as LiveNotice));
    hear('alive', () => undefined);
    next.addEventListener('error', () => {
      if (next === this.stream) this.failed(next);
    });
    this.listenFor();
  }

  /** Waits for the next word. */
  private listenFor(): void {
    clearTimeout(this.silence);
    this.silence = setTimeout(() => {
      this.isBroken = true;
      this.open();
    }, SILENT_MS);
  }

  private opened(): void {
    this.outside.reached(true);
    const { added, deafSince } = this;
    const now = Date.now();
    const isCovered = !this.isBroken && (deafSince === null || now - deafSince <= COVERED_MS);
    this.added = [];
    this.deafSince = null;
    this.isBroken = false;
    this.refusals = 0;
    if (!isCovered) this.outside.changed(['*']);
    else if (added.length > 0) this.outside.outOfDate(added, now - COVERED_MS);
  }

  /** A browser tries again where a connection broke, and not where it was refused. */
  private failed(stream: EventSource): void {
    this.deafSince ??= Date.now();
    this.isBroken = true;
    this.outside.reached(false);
    if (stream.readyState !== EventSource.CLOSED) return;
    this.outside.refused();
    clearTimeout(this.silence);
    const pause = Math.min(AGAIN_MS.first * 2 ** this.refusals++, AGAIN_MS.most);
    // Not all windows at the same moment.
    this.again = setTimeout(() => this.open(), pause * (0.5 + Math.random() / 2));
  }
}
