import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import type { Me } from '../../contract/session.ts';
import { answerTo } from './answers.ts';
import { onSignedOut } from './api.ts';
import { forgetAll } from './kept.ts';

/** Tells the other tabs of this browser that somebody has signed in or out. */
const tabs = 'BroadcastChannel' in globalThis ? new BroadcastChannel('marmot') : null;

export const tellTabs = (): void => tabs?.postMessage('session');

/**
 * Whoever was signed in here and is not any more: they stay where they are, and what was asked for in
 * the meantime waits until they have signed in again.
 * @param me who is signed in at present; undefined while that is not known
 * @returns who has to sign in again, or null
 */
export function useSignedOut(me: Me | null | undefined): Me | null {
  const client = useQueryClient();
  const last = useRef<Me | null>(null);
  const waiting = useRef<(() => void)[]>([]);

  useEffect(() => {
    const readSession = () =>
      client.invalidateQueries({ queryKey: answerTo('GET /api/session').queryKey });
    const hear = () => void readSession();
    tabs?.addEventListener('message', hear);
    onSignedOut(async () => {
      if (!last.current) return;
      const signedIn = new Promise<void>((resolve) => waiting.current.push(resolve));
      await readSession();
      await signedIn;
    });
    return () => {
      tabs?.removeEventListener('message', hear);
      onSignedOut(null);
    };
  }, [client]);

  useEffect(() => {
    if (!me) return;
    if (last.current && last.current.id !== me.id) {
      forgetAll();
      window.location.assign('/');
      return;
    }
    const wasOut = waiting.current;
    waiting.current = [];
    last.current = me;
    for (const goOn of wasOut) goOn();
  }, [me]);

  return me === null ? last.current : null;
}
