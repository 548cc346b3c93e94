import { Problem } from './problem.ts';

/** How many are served at once, how many may wait, and for how long. */
export interface LineBounds {
  atOnce: number;
  mostWaiting: number;
  longestWaitMs: number;
}

/** Work that waits in line for a few places, first come, first served. */
export class ConcurrencyLimiter {
  private running = 0;
  private readonly waiting: (() => void)[] = [];

  constructor(private readonly bounds: LineBounds) {}

  /** Whether nobody is served or waits. */
  get isEmpty(): boolean {
    return this.running === 0;
  }

  /** @throws Problem 429 when too many wait, or for too long */
  async run<Result>(work: () => Promise<Result>): Promise<Result> {
    const leave = await this.enter();
    try {
      return await work();
    } finally {
      leave();
    }
  }

  /**
   * Takes a place, waiting for one.
   * @returns what gives it back, once
   * @throws Problem 429 when too many wait, or for too long
   */
  async enter(): Promise<() => void> {
    if (this.running >= this.bounds.atOnce) await this.turn();
    else this.running++;
    let isHeld = true;
    return () => {
      if (!isHeld) return;
      isHeld = false;
      // Whoever comes next takes over this one's place.
      const next = this.waiting.shift();
      if (next) next();
      else this.running--;
    };
  }

  private turn(): Promise<void> {
    if (this.waiting.length >= this.bounds.mostWaiting) throw tooMany();
    return new Promise((resolve, reject) => {
      const start = () => {
        clearTimeout(timer);
        resolve();
      };
      const timer = setTimeout(() => {
        this.waiting.splice(this.waiting.indexOf(start), 1);
        reject(tooMany());
      }, this.bounds.longestWaitMs);
      this.waiting.push(start);
    });
  }
}

const tooMany = () =>
  new Problem(429, 'too-many-requests', 'Too many requests at once. Try again in a moment.', {
    retryAfterSeconds: 2,
  });
