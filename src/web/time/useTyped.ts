import { useState } from 'react';
import { retyped, type TypedTimes } from '../../core/time/typedTimes.ts';

/** Times as typed; moving the start keeps the length. */
export function useTyped(initial: TypedTimes) {
  const [typed, setTyped] = useState(initial);
  const change = (part: Partial<TypedTimes>) => setTyped((before) => retyped(before, part));
  return { typed, change, setTyped };
}
