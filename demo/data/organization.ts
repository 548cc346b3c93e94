/** Tern Rock Institute and its partner, all of it made up. */

import type { PlaceRules } from '../../src/core/booking/rules.ts';
import { weekOf } from '../../src/core/time/workingHours.ts';

export interface SampleSite {
  name: string;
  city: string;
  zone: string;
  /** Minutes after local midnight. */
  hours: [number, number];
}

export const HOME = 'Tern Rock Institute';
export const HOME_DOMAIN = 'ternrock.example';
export const PARTNER = 'Nilgiri Water Trust';
export const PARTNER_DOMAIN = 'nilgiriwater.example';

export const SITES: SampleSite[] = [
  { name: 'Skerry House', city: 'Bergen', zone: 'Europe/Oslo', hours: [480, 990] },
  { name: 'Bluff Station', city: 'Halifax', zone: 'America/Halifax', hours: [510, 1020] },
  { name: 'Southern Station', city: 'Hobart', zone: 'Australia/Hobart', hours: [540, 1020] },
  { name: 'Coast Office', city: 'Nairobi', zone: 'Africa/Nairobi', hours: [480, 1020] },
];

export const PARTNER_SITE: SampleSite = {
  name: 'Trust House',
  city: 'Ooty',
  zone: 'Asia/Kolkata',
  hours: [570, 1080],
};

export const TEAMS = [
  'Kelp Forests',
  'Seabirds',
  'Ocean Sound',
  'Sea Ice',
  'Moorings',
  'Data and Models',
  'Sites and Office',
] as const;
export type SampleTeam = (typeof TEAMS)[number];

export interface SamplePerson {
  name: string;
  title: string;
  team: SampleTeam;
  role?: 'steward' | 'administrator';
  /** What a steward looks after: the places of their site, or of a kind; everything where it is left out. */
  keeps?: 'their site' | 'lab';
  /** The team for whose people they plan. */
  coordinates?: (typeof TEAMS)[number];
  /** Differs from the site's usual hours. */
  hours?: [number, number];
  weekdays?: number[];
  shares?: 'nothing' | 'titles' | 'everything';
}

/** On which floor of Skerry House the people of each team sit; the other sites have one for all. */
export const TEAM_FLOORS: Record<SampleTeam, string> = {
  'Kelp Forests': '1',
  Seabirds: '1',
  'Ocean Sound': '2',
  'Sea Ice': '3',
  Moorings: '0',
  'Data and Models': '2',
  'Sites and Office': '1',
};

/** On which floor people sit at the sites after Skerry House. */
export const SITE_FLOORS = ['', '1', '1', '4'];

/** People by site, in the order of SITES. */
export const PEOPLE: SamplePerson[][] = [
  [
    { name: 'Ines Aldabe', title: 'Coordinator', team: 'Sites and Office', role: 'steward' },
    { name: 'Tomas Okafor', title: 'Acoustic engineer', team: 'Ocean Sound' },
    { name: 'Robine Thys', title: 'Data steward', team: 'Data and Models', shares: 'titles' },
    { name: 'Sunniva Brekke', title: 'Head of science', team: 'Kelp Forests', shares: 'titles' },
    {
      name: 'Aksel Nordvik',
      title: 'Administrator',
      team: 'Sites and Office',
      role: 'administrator',
    },
    { name: 'Leila Haddad', title: 'Kelp ecologist', team: 'Kelp Forests' },
    { name: 'Jonas Vågen', title: 'Diver', team: 'Kelp Forests', weekdays: [1, 2, 3, 4] },
    { name: 'Mei Tanaka', title: 'Seabird ecologist', team: 'Seabirds' },
    { name: 'Oskar Lindqvist', title: 'Ringing lead', team: 'Seabirds', shares: 'nothing' },
    { name: 'Fatou Diarra', title: 'Statistician', team: 'Data and Models' },
    { name: 'Emil Rask', title: 'Software engineer', team: 'Data and Models', hours: [600, 1110] },
    { name: 'Hedda Solbakken', title: 'Ice physicist', team: 'Sea Ice' },
    { name: 'Bartosz Zieliński', title: 'Remote sensing', team: 'Sea Ice' },
    { name: 'Nadia Petrov', title: 'Mooring engineer', team: 'Moorings' },
    { name: 'Sigrid Aune', title: 'Workshop lead', team: 'Moorings', hours: [420, 900] },
    { name: 'Kwame Boateng', title: 'Hydrophone engineer', team: 'Ocean Sound' },
    { name: 'Ylva Strand', title: 'Signal analyst', team: 'Ocean Sound', shares: 'everything' },
    {
      name: 'Pedro Quintela',
      title: 'Lab manager',
      team: 'Sites and Office',
      role: 'steward',
      keeps: 'lab',
    },
    { name: 'Anneke de Wit', title: 'Finance officer', team: 'Sites and Office' },
    { name: 'Runa Fossheim', title: 'Communications', team: 'Sites and Office' },
    { name: 'Idris Kaya', title: 'Doctoral student', team: 'Kelp Forests' },
    { name: 'Clara Weiss', title: 'Doctoral student', team: 'Sea Ice' },
    { name: 'Henrik Sæther', title: 'Boat master', team: 'Moorings', hours: [360, 840] },
  ],
  [
    { name: 'Mika Sandoval', title: 'Array lead', team: 'Ocean Sound' },
    {
      name: 'Josephine Arseneau',
      title: 'Station manager',
      team: 'Sites and Office',
      role: 'steward',
      keeps: 'their site',
    },
    { name: 'Declan Murphy', title: 'Seabird biologist', team: 'Seabirds' },
    { name: 'Amara Nwosu', title: 'Kelp modeller', team: 'Kelp Forests' },
    { name: 'Luc Thibodeau', title: 'Field technician', team: 'Moorings' },
    { name: 'Grace Paul', title: 'Tagging specialist', team: 'Seabirds', shares: 'titles' },
    { name: 'Viktor Hale', title: 'Glider pilot', team: 'Moorings', hours: [1200, 1680] },
    { name: 'Noor Rahman', title: 'Data engineer', team: 'Data and Models' },
    { name: 'Sofie Maclean', title: 'Ice chemist', team: 'Sea Ice' },
    { name: 'Tariq Saleh', title: 'Research assistant', team: 'Ocean Sound' },
    { name: 'Beth Comeau', title: 'Purser', team: 'Sites and Office' },
    { name: 'Yusuf Demir', title: 'Visiting scientist', team: 'Sea Ice' },
  ],
  [
    { name: 'Hal Teague', title: 'Station lead', team: 'Seabirds' },
    { name: 'Isla Cunningham', title: 'Kelp restoration', team: 'Kelp Forests' },
    { name: 'Ravi Menon', title: 'Oceanographer', team: 'Moorings' },
    { name: 'Tui Parata', title: 'Penguin ecologist', team: 'Seabirds' },
    { name: 'Claudia Ferrari', title: 'Imaging scientist', team: 'Data and Models' },
    { name: 'Bao Nguyen', title: 'Sound archivist', team: 'Ocean Sound' },
    {
      name: 'Elsie Drummond',
      title: 'Office coordinator',
      team: 'Sites and Office',
      role: 'steward',
      keeps: 'their site',
    },
    { name: 'Marcus Yee', title: 'Ice diver', team: 'Sea Ice' },
    { name: 'Alinta Ross', title: 'Doctoral student', team: 'Kelp Forests' },
  ],
  [
    { name: 'Wanjiru Keele', title: 'Coast lead', team: 'Kelp Forests' },
    {
      name: 'Otieno Were',
      title: 'Field coordinator',
      team: 'Sites and Office',
      coordinates: 'Seabirds',
    },
    { name: 'Zainab Yusuf', title: 'Seabird surveys', team: 'Seabirds' },
    { name: 'Peter Mutua', title: 'Systems engineer', team: 'Data and Models' },
    { name: 'Halima Abdi', title: 'Reef acoustics', team: 'Ocean Sound' },
    { name: 'Samuel Kiprop', title: 'Instrument technician', team: 'Moorings' },
    { name: 'Amina Noor', title: 'Climate scientist', team: 'Sea Ice' },
  ],
];

export const PARTNER_PEOPLE = [
  { name: 'Priya Raman', title: 'Programme director' },
  { name: 'Arjun Nair', title: 'Hydrologist' },
  { name: 'Lakshmi Iyer', title: 'Water quality lead' },
  { name: 'Devika Menon', title: 'Community liaison' },
  { name: 'Kabir Sethi', title: 'Sensor engineer' },
  { name: 'Meera Pillai', title: 'Data analyst' },
];

export type ResourceKind = 'room' | 'lab' | 'desk' | 'equipment' | 'vehicle' | 'parking';

export interface SampleResource {
  name: string;
  kind: ResourceKind;
  /** Index into SITES. */
  site: number;
  floor?: string;
  capacity?: number;
  units?: number;
  description?: string;
  features?: string[];
  /** Minutes kept free before and after. */
  buffers?: [number, number];
  /** Whose it is, by name, and on which weekdays (1 is Monday) others may have it. */
  owner?: { name: string; freeOn: readonly number[] };
  /** By what bookings are bound; teams by their names. */
  rules?: Partial<Omit<PlaceRules, 'teams'>> & { teams?: SampleTeam[] };
}

const HOUSE_HOURS = weekOf({ start: 7 * 60, end: 20 * 60 });
const LAB_HOURS = weekOf({ start: 8 * 60, end: 18 * 60 });

const room = (
  site: number,
  name: string,
  floor: string,
  capacity: number,
  features: string[],
  buffers?: [number, number],
): SampleResource => ({
  name,
  kind: 'room',
  site,
  floor,
  capacity,
  features,
  ...(buffers && { buffers }),
});

const desks = (site: number, prefix: string, floor: string, count: number): SampleResource[] =>
  Array.from({ length: count }, (_, k) => ({
    name: `Desk ${prefix}${k + 1}`,
    kind: 'desk',
    site,
    floor,
    capacity: 1,
    features: k % 2 ? ['two screens'] : ['standing desk', 'window'],
  }));

export const RESOURCES: SampleResource[] = [
  {
    ...room(0, 'Gannet', '2', 12, ['screen', 'video', 'whiteboard']),
    rules: { graceMinutes: 10 },
  },
  room(0, 'Skua', '2', 8, ['screen', 'video']),
  room(0, 'Puffin', '1', 4, ['screen']),
  room(0, 'Kittiwake', '1', 6, ['screen', 'video']),
  room(0, 'Guillemot', '3', 10, ['screen', 'whiteboard', 'step-free']),
  room(0, 'Fulmar', '3', 20, ['screen', 'video', 'hearing loop', 'step-free'], [15, 15]),
  {
    ...room(
      0,
      'Cormorant Hall',
      '0',
      60,
      ['stage', 'video', 'hearing loop', 'step-free'],
      [30, 30],
    ),
    rules: {
      open: HOUSE_HOURS,
      shortestMinutes: 30,
      horizonDays: 365,
      approval: true,
      hourlyPrice: { hundredths: 60_000, currency: 'NOK' },
    },
  },
  room(1, 'Petrel', '1', 6, ['screen', 'video']),
  room(1, 'Shearwater', '1', 10, ['screen', 'video', 'whiteboard']),
  room(1, 'Razorbill', '2', 4, ['screen']),
  room(1, 'Dovekie', '2', 16, ['screen', 'video', 'step-free'], [10, 10]),
  room(2, 'Albatross', '1', 12, ['screen', 'video', 'whiteboard']),
  room(2, 'Prion', '1', 5, ['screen', 'video']),
  room(2, 'Diving Petrel', '2', 8, ['whiteboard']),
  room(3, 'Noddy', '4', 8, ['screen', 'video']),
  room(3, 'Sooty Tern', '4', 4, ['screen']),
  {
    name: 'Wet lab A',
    kind: 'lab',
    site: 0,
    floor: '0',
    capacity: 6,
    features: ['seawater', 'fume hood'],
    buffers: [15, 30],
  },
  {
    name: 'Wet lab B',
    kind: 'lab',
    site: 0,
    floor: '0',
    capacity: 4,
    features: ['seawater'],
    buffers: [15, 30],
  },
  {
    name: 'Imaging lab',
    kind: 'lab',
    site: 0,
    floor: '1',
    capacity: 3,
    features: ['microscope', 'dark room'],
    rules: { open: LAB_HOURS, longestMinutes: 240, stepMinutes: 15, weeklyMinutes: 720 },
  },
  {
    name: 'Bluff wet lab',
    kind: 'lab',
    site: 1,
    floor: '0',
    capacity: 5,
    features: ['seawater', 'fume hood'],
    buffers: [15, 30],
  },
  {
    name: 'Cold lab',
    kind: 'lab',
    site: 2,
    floor: '0',
    capacity: 3,
    features: ['-20 °C'],
    buffers: [0, 30],
  },
  {
    name: 'Southern imaging lab',
    kind: 'lab',
    site: 2,
    floor: '1',
    capacity: 2,
    features: ['microscope'],
    rules: { open: LAB_HOURS },
  },
  ...desks(0, 'B', '2', 10),
  ...desks(1, 'H', '1', 6),
  ...desks(2, 'S', '1', 5),
  ...desks(3, 'N', '4', 4),
  {
    name: 'Sonar kit',
    kind: 'equipment',
    site: 0,
    units: 3,
    features: ['towed', 'calibrated'],
    description: 'Towed echo sounder with laptop and cables.',
  },
  {
    name: 'Survey drone',
    kind: 'equipment',
    site: 0,
    units: 2,
    features: ['camera'],
    description: 'Needs a licensed pilot.',
    rules: { teams: ['Seabirds', 'Kelp Forests', 'Sites and Office'] },
  },
  { name: 'Hydrophone set', kind: 'equipment', site: 1, units: 2, features: ['four channels'] },
  { name: 'Camera sled', kind: 'equipment', site: 1, features: ['200 m'] },
  { name: 'Ice corer', kind: 'equipment', site: 2 },
  { name: 'Satellite phone', kind: 'equipment', site: 3, units: 2 },
  { name: 'Field van', kind: 'vehicle', site: 0, capacity: 5, features: ['tow bar'] },
  {
    name: 'Boat Skerry Runner',
    kind: 'vehicle',
    site: 0,
    capacity: 8,
    features: ['A-frame', 'echo sounder'],
    buffers: [60, 60],
    rules: { noticeMinutes: 24 * 60, teams: ['Moorings', 'Ocean Sound', 'Sites and Office'] },
  },
  { name: 'Pickup', kind: 'vehicle', site: 1, capacity: 5 },
  { name: 'Inflatable Muttonbird', kind: 'vehicle', site: 2, capacity: 6, buffers: [30, 30] },
  { name: 'Land cruiser', kind: 'vehicle', site: 3, capacity: 7 },
  { name: 'Visitor parking', kind: 'parking', site: 0, units: 4, features: ['charging'] },
  { name: 'Loading bay', kind: 'parking', site: 0 },
  ...(
    [
      ['Desk C1', 'Ines Aldabe', [5]],
      ['Desk C2', 'Tomas Okafor', [4, 5]],
      ['Desk C3', 'Sunniva Brekke', []],
    ] as const
  ).map(([name, owner, freeOn]): SampleResource => ({
    name,
    kind: 'desk',
    site: 0,
    floor: '3',
    capacity: 1,
    features: ['two screens', 'window'],
    owner: { name: owner, freeOn },
  })),
];
