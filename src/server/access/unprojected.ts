declare const unprojected: unique symbol;

/**
 * Something as it was read, before it is known who looks at it. It is what it was when it is written and read,
 * and fits into no answer: only access/ makes of it what somebody may see.
 */
export interface Unprojected<Value> {
  readonly [unprojected]: Value;
}

/** Says of something that was made here, and not read, that nobody has been looked at for it yet. */
export const unprojectedOf = <Value>(value: Value): Unprojected<Value> =>
  value as unknown as Unprojected<Value>;

/** What it is: for access/ alone, which this does not leave. */
export const reveal = <Value>(value: Unprojected<Value>): Value => value as unknown as Value;
