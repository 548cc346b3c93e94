import type { Edit } from '../edits.ts';
import { holidayInWords } from '../time/dayOffWords.ts';
import type { Shift } from '../time/workingHours.ts';

interface Named {
  name: string;
}

/** What happens to a site: its own values, its days, and that it is there. */
export interface SiteFactDetails {
  'site-added': Named;
  'site-changed': Named & { edits: readonly Edit[] };
}
export const SITE_FACT_KINDS = [
  'site-added',
  'site-changed',
] as const satisfies readonly (keyof SiteFactDetails)[];

const plain = (value: unknown): string => {
  if (value === null || value === '') return 'none';
  if (typeof value !== 'object') return String(value);
  return holidayInWords(value as { name: string; part: Shift }, '24');
};

/** How the values of a site are called. */
const FIELDS: Record<string, string> = {
  name: 'name',
  city: 'city',
  zone: 'zone',
  hours: 'working hours',
  isRemoved: 'whether it is there',
  floors: 'order of floors',
};
const nameOf = (path: string): string =>
  path.startsWith('holiday/')
    ? 'holidays'
    : path.startsWith('floor/')
      ? 'floors'
      : (FIELDS[path] ?? path);

/** How values that edits are about are called, each once. */
export const siteFieldNames = (edits: readonly Edit[]): string[] => [
  ...new Set(edits.map(({ path }) => nameOf(path))),
];

/** What happened to a site, as it stands behind the name of whoever did it. */
export function siteFactInWords(
  kind: keyof SiteFactDetails,
  details: SiteFactDetails[keyof SiteFactDetails],
): string {
  if (kind === 'site-added') return 'added it';
  const { edits } = details as SiteFactDetails['site-changed'];
  return `changed ${edits
    .map(({ path, from, to }) => {
      if (path.startsWith('holiday/')) {
        const date = path.slice('holiday/'.length);
        if (to === null) return `holiday ${date} (${plain(from)}) struck`;
        return from === null
          ? `holiday ${date}: ${plain(to)}`
          : `holiday ${date}: ${plain(from)} → ${plain(to)}`;
      }
      if (path.startsWith('floor/')) {
        if (to === null) return `floor ${plain(from)} struck`;
        return from === null ? `floor ${plain(to)} added` : `floor ${plain(from)} → ${plain(to)}`;
      }
      return path === 'hours' || path === 'floors'
        ? nameOf(path)
        : `${nameOf(path)} ${plain(from)} → ${plain(to)}`;
    })
    .join('; ')}`;
}
