import { useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useContext, useEffect, useState } from 'react';
import type { ChangePreferencesRequest } from '../../contract/preferences.ts';
import type { Me, Preferences, RoleAct } from '../../contract/session.ts';
import { answerTo } from './answers.ts';
import { callApi } from './api.ts';
import { forgetAll } from './kept.ts';
import { changed } from './readAgain.ts';
import { tellTabs } from './signedOut.ts';

const SESSION = answerTo('GET /api/session');

export const useSession = () =>
  useQuery({
    ...SESSION,
    staleTime: Number.POSITIVE_INFINITY,
  });

interface SignedIn {
  me: Me;
  preferences: Preferences;
  organization: string;
  /** Milliseconds to add to this browser's clock to get the server's. */
  ahead: number;
  fixedAt: number | null;
}

export const SignedInContext = createContext<SignedIn | null>(null);

function useSignedIn(): SignedIn {
  const signedIn = useContext(SignedInContext);
  if (!signedIn) throw new Error('nobody is signed in here');
  return signedIn;
}

export const useMe = (): Me => useSignedIn().me;

/** For whom somebody may do things: those for whom they act, then the people of the teams they coordinate. */
export const forWhom = ({ actsFor, coordinates }: Me): { id: number; name: string }[] => [
  ...actsFor,
  ...coordinates.filter(({ id }) => !actsFor.some((one) => one.id === id)),
];

/** Whether somebody may what only some may, by their role; where a place is named, with it. */
export const may = (me: Me, act: RoleAct, placeId?: number): boolean =>
  me.acts.includes(act) &&
  (placeId === undefined || me.keeps === null || me.keeps.includes(placeId));

export const usePreferences = (): Preferences => useSignedIn().preferences;

/** Keeps what I chose; everything shown follows at once. @throws ApiProblem */
export function useChangePreferences(): (change: ChangePreferencesRequest) => Promise<void> {
  const client = useQueryClient();
  return async (change) => {
    await callApi('PATCH /api/preferences', { body: change });
    await client.invalidateQueries({ queryKey: SESSION.queryKey });
    void changed(client, 'person', 'calendar');
  };
}

const TICK_MS = 15_000;

/** The present instant on the server's clock, moving on by itself. Epoch milliseconds. */
export function useNow(): number {
  const { ahead, fixedAt } = useSignedIn();
  const [now, setNow] = useState(() => fixedAt ?? Date.now() + ahead);
  useEffect(() => {
    if (fixedAt !== null) return;
    const timer = setInterval(() => setNow(Date.now() + ahead), TICK_MS);
    return () => clearInterval(timer);
  }, [ahead, fixedAt]);
  return now;
}

export function useSignOut(): () => Promise<void> {
  const client = useQueryClient();
  return async () => {
    // Where somebody else vouched for them, their session ends there, too.
    const { location } = await callApi('POST /api/sign-in/end');
    forgetAll();
    client.clear();
    tellTabs();
    window.location.assign(location ?? '/');
  };
}
