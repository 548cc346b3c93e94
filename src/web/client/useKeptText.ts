import { useEffect, useState } from 'react';
import { forget, keep, kept } from './kept.ts';

/**
 * What is entered beside something else, kept in this tab until it is sent.
 * @returns it, a way to change it, and one to say that it is sent
 */
export function useKept<Content>(
  name: string,
  initial: Content,
): [Content, (content: Content) => void, () => void] {
  const [content, setContent] = useState(() => kept<Content>(name) ?? initial);
  const [isSent, setIsSent] = useState(false);
  const isInitial = JSON.stringify(content) === JSON.stringify(initial);
  useEffect(() => {
    if (isInitial || isSent) forget(name);
    else keep(name, content);
  }, [name, content, isInitial, isSent]);
  const change = (next: Content) => {
    setIsSent(false);
    setContent(next);
  };
  const sent = () => {
    forget(name);
    setIsSent(true);
  };
  return [content, change, sent];
}

/** The same of a text. */
export const useKeptText = (name: string, initial = '') => useKept<string>(name, initial);
