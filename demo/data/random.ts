/** A small deterministic generator (mulberry32), so that a day always has the same demonstration. */
export class Random {
  private state: number;

  constructor(seed: string) {
    let hash = 2_166_136_261;
    for (const sign of seed) hash = Math.imul(hash ^ sign.charCodeAt(0), 16_777_619);
    this.state = hash >>> 0;
  }

  /** From 0 to below 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** A whole number from 0 to below `n`. */
  below(n: number): number {
    return Math.floor(this.next() * n);
  }

  chance(probability: number): boolean {
    return this.next() < probability;
  }

  pick<T>(items: readonly T[]): T {
    return items[this.below(items.length)]!;
  }

  /** `count` different items, in random order. */
  some<T>(items: readonly T[], count: number): T[] {
    const pool = [...items];
    const chosen: T[] = [];
    while (chosen.length < count && pool.length > 0)
      chosen.push(...pool.splice(this.below(pool.length), 1));
    return chosen;
  }

  uuid(): string {
    const hex = Array.from({ length: 32 }, () => this.below(16).toString(16));
    hex[12] = '4';
    hex[16] = (8 + this.below(4)).toString(16);
    const text = hex.join('');
    return [
      text.slice(0, 8),
      text.slice(8, 12),
      text.slice(12, 16),
      text.slice(16, 20),
      text.slice(20),
    ].join('-');
  }
}
