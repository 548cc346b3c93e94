import type { Edit } from '../edits.ts';

interface Named {
  name: string;
}

/** What happens to a team: its name, who leads it, what it is a part of, and that it is there. */
export interface TeamFactDetails {
  'team-added': Named;
  'team-changed': Named & { edits: readonly Edit[] };
  'team-removed': Named;
}
export const TEAM_FACT_KINDS = [
  'team-added',
  'team-changed',
  'team-removed',
] as const satisfies readonly (keyof TeamFactDetails)[];

/** What ids in edits stand for. */
export interface TeamWords {
  nameOf: (what: 'team' | 'person', id: number) => string;
}

const nobody = (id: unknown, say: (id: number) => string): string =>
  typeof id === 'number' ? say(id) : 'none';

/** How the values of a team are called, and said. */
const FIELDS: Record<string, [name: string, say: (value: unknown, words: TeamWords) => string]> = {
  name: ['name', String],
  leadId: ['who leads it', (id, { nameOf }) => nobody(id, (one) => nameOf('person', one))],
  parentId: ['what it is a part of', (id, { nameOf }) => nobody(id, (one) => nameOf('team', one))],
};

/** How values that edits are about are called, each once; its people apart. */
export const teamFieldNames = (edits: readonly Edit[]): string[] => [
  ...new Set(
    edits.flatMap(({ path }) =>
      path.startsWith('member/') ? ['who is in it'] : (FIELDS[path]?.[0] ?? []),
    ),
  ),
];

/** What happened to a team, as it stands behind the name of whoever did it. */
export function teamFactInWords(
  kind: keyof TeamFactDetails,
  details: TeamFactDetails[keyof TeamFactDetails],
  words: TeamWords,
): string {
  if (kind === 'team-added') return 'added it';
  if (kind === 'team-removed') return 'removed it';
  const { edits } = details as TeamFactDetails['team-changed'];
  const named = (isIn: boolean) =>
    edits
      .filter(({ path, to }) => path.startsWith('member/') && (to === true) === isIn)
      .map(({ path }) => words.nameOf('person', Number(path.slice('member/'.length))));
  const [came, went] = [named(true), named(false)];
  return [
    ...edits.flatMap(({ path, from, to }) => {
      const field = FIELDS[path];
      return field ? [`changed ${field[0]} ${field[1](from, words)} → ${field[1](to, words)}`] : [];
    }),
    ...(came.length > 0 ? [`put in ${came.join(', ')}`] : []),
    ...(went.length > 0 ? [`took out ${went.join(', ')}`] : []),
  ].join('; ');
}
