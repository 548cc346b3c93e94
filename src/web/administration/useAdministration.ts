import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type {
  ChangePeopleRequest,
  PeopleRead,
  StaffList,
  StaffMember,
} from '../../contract/administration.ts';
import type { GivenTo } from '../../contract/route.ts';
import type { Routes } from '../../contract/routes.ts';
import { counted } from '../../core/counted.ts';
import {
  answerTo,
  callApi,
  offerUndo,
  takeChangesBack,
  undoable,
  useChanged,
  usePages,
  useShown,
} from '../client/index.ts';
import { tellUser } from '../design/notices.ts';

type Body<Name extends keyof Routes> = NonNullable<GivenTo<Routes[Name]>['body']>;

/** What is shown of letters changes as they leave. */
const WITH_LETTERS = ['directory:all', 'mailroom:all'];

/** The organization, and how far its first hour has come. */
export function useOrganization() {
  useShown(WITH_LETTERS);
  return useQuery(answerTo('GET /api/administration/organization'));
}

/** Its sites with hours and holidays, and its teams. */
export function useSites() {
  useShown(['directory:all']);
  return useQuery(answerTo('GET /api/administration/sites'));
}

const peopleOf = ({ people }: StaffList) => people;

/** Its people, a part at a time. */
export function useStaff(
  query: Omit<NonNullable<GivenTo<Routes['GET /api/administration/people']>['query']>, 'after'>,
) {
  useShown(WITH_LETTERS);
  return usePages('GET /api/administration/people', query, peopleOf);
}

function useRefresh() {
  const changed = useChanged();
  return () => changed('directory', 'person');
}

/** How long nothing is typed before a text is read. */
const PAUSE_MS = 250;

/** What a text of addresses says, by the server's rules, while it is typed. */
export function useRead(text: string, siteId: number | undefined) {
  const [asked, setAsked] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(text), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text]);
  const query = useQuery<PeopleRead>({
    queryKey: ['POST /api/administration/people/read', asked, siteId],
    queryFn: () =>
      callApi('POST /api/administration/people/read', {
        body: { text: asked, ...(siteId !== undefined && { siteId }) },
      }),
    enabled: asked.trim() !== '',
    placeholderData: keepPreviousData,
  });
  return {
    ...query,
    read: asked.trim() === '' ? null : (query.data ?? null),
    isBehind: asked !== text,
  };
}

/** Adds people; they are taken back by undo. */
export function useAddPeople(onAdded: () => void) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (body: Body<'POST /api/administration/people'>) =>
      undoable(callApi('POST /api/administration/people', { body })),
    onSuccess: ({ changes, ids }, { welcome }) => {
      const words = `${counted(ids.length, 'person', 'people')} ${welcome === false ? 'added' : 'invited'}.`;
      offerUndo(words, () => takeChangesBack(changes).then(refresh), changes);
      onAdded();
    },
    onSettled: refresh,
  });
}

type Chosen = readonly Pick<StaffMember, 'id' | 'version' | 'name'>[];
const chosenOf = (people: Chosen) => people.map(({ id, version }) => ({ id, version }));
const namesOf = (people: Chosen) =>
  people.length === 1 ? people[0]!.name : counted(people.length, 'person', 'people');

/** Changes people; it is taken back by undo. */
export function useChangePeople() {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: ({ people, change }: { people: Chosen; change: ChangePeopleRequest['change'] }) =>
      undoable(
        callApi('PATCH /api/administration/people', {
          body: { people: chosenOf(people), change },
        }),
      ),
    onSuccess: ({ changes }, { people }) => {
      if (changes.length === 0) return;
      offerUndo(
        `${namesOf(people)} changed.`,
        () => takeChangesBack(changes).then(refresh),
        changes,
      );
    },
    onSettled: refresh,
  });
}

const STANDING = {
  end: {
    route: 'POST /api/administration/people/end',
    words: 'has no access any more',
    many: 'have no access any more',
  },
  return: {
    route: 'POST /api/administration/people/return',
    words: 'can sign in again',
    many: 'can sign in again',
  },
} as const;

/** Ends people's access, or gives it back; either is taken back by undo. */
export function useStanding() {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: ({ people, to }: { people: Chosen; to: keyof typeof STANDING }) =>
      undoable(callApi(STANDING[to].route, { body: { people: chosenOf(people) } })),
    onSuccess: ({ changes }, { people, to }) => {
      const verb = people.length === 1 ? STANDING[to].words : STANDING[to].many;
      offerUndo(
        `${namesOf(people)} ${verb}.`,
        () => takeChangesBack(changes).then(refresh),
        changes,
      );
    },
    onSettled: refresh,
  });
}

/** Lets somebody who left be forgotten, which takes a moment and is not taken back. */
export function useForget() {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: ({ id, version }: Pick<StaffMember, 'id' | 'version' | 'name'>) =>
      callApi('POST /api/administration/people/:id/forget', { params: { id }, body: { version } }),
    onSuccess: (_, { name }) => tellUser(`${name} is being forgotten.`),
    onSettled: refresh,
  });
}

/** Writes letters of welcome once more. */
export function useWelcomeAgain() {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (people: Chosen) =>
      callApi('POST /api/administration/people/welcome', { body: { people: chosenOf(people) } }),
    onSuccess: ({ letters }) =>
      tellUser(`${counted(letters, 'letter')} of welcome written. Earlier links are good no more.`),
    onSettled: refresh,
  });
}

/** Adds a site, or changes the one of that id; either is taken back by undo. */
export function useSaveSite(onSaved: () => void) {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: async ({
      id,
      version,
      site,
    }: {
      id: number | null;
      version: number;
      site: Body<'POST /api/administration/sites'>;
    }): Promise<number | null> => {
      if (id === null)
        return (await undoable(callApi('POST /api/administration/sites', { body: site }))).change;
      const body = { ...site, version };
      return (
        await undoable(callApi('PATCH /api/administration/sites/:id', { params: { id }, body }))
      ).change;
    },
    onSuccess: (change, { site: { name } }) => {
      if (change === null) tellUser(`${name} is as it was.`);
      else offerUndo(`${name} is kept.`, () => takeChangesBack([change]).then(refresh), [change]);
      onSaved();
    },
    onSettled: refresh,
  });
}

/** Changes the organization: its name, what new people begin with, what is left for later. */
export function useChangeOrganization() {
  const refresh = useRefresh();
  return useMutation({
    mutationFn: (body: Body<'PATCH /api/administration/organization'>) =>
      callApi('PATCH /api/administration/organization', { body }),
    onSettled: refresh,
  });
}
