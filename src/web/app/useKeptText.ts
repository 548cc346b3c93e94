import { useEffect, useState } from 'react';
import { forget, keep, kept } from './kept.ts';

/**
 * A text that is typed beside something else, kept in this tab until it is sent.
 * @returns the text, a way to change it, and one to say that it is sent
 */
export function useKeptText(
  name: string,
  initial = '',
): [string, (text: string) => void, () => void] {
  const [text, setText] = useState(() => kept<string>(name) ?? initial);
  useEffect(() => {
    if (text === initial) forget(name);
    else keep(name, text);
  }, [name, text, initial]);
  const sent = () => forget(name);
  return [text, setText, sent];
}
