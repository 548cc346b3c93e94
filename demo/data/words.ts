import type { ResourceKind, SampleTeam } from './organization.ts';
import type { Random } from './random.ts';

export const JOURNEYS = ['Field week', 'Conference', 'Cruise', 'Station visit', 'Partner visit'];

export const QUIET_WORK = [
  'Writing',
  'Data checking',
  'Reading',
  'Proposal draft',
  'Code review',
  'Lab notes',
  'Analysis',
];

const SUBJECTS: Record<SampleTeam, string[]> = {
  'Kelp Forests': ['Kelp survey', 'Transect', 'Urchin count', 'Canopy map', 'Spore trial'],
  Seabirds: ['Ringing season', 'Colony count', 'Tracker data', 'Nest camera', 'Diet samples'],
  'Ocean Sound': ['Array calibration', 'Hydrophone', 'Whale call', 'Ship noise', 'Sonar'],
  'Sea Ice': ['Ice core', 'Melt pond', 'Satellite pass', 'Freeze-up', 'Salinity'],
  Moorings: ['Mooring', 'Buoy budget', 'Winch', 'Glider mission', 'Battery'],
  'Data and Models': ['Data release', 'Archive', 'Model run', 'Metadata', 'Pipeline'],
  'Sites and Office': ['Budget', 'Open day', 'Safety', 'Hiring', 'Station supplies'],
};

const FORMS = ['review', 'planning', 'check-in', 'workshop', 'handover', 'decisions', 'next steps'];

const SHARED = ['Nilgiri project', 'Joint sampling', 'Sensor exchange'];

export function meetingTitle(random: Random, team: SampleTeam | null): string {
  return `${random.pick(team ? SUBJECTS[team] : SHARED)} ${random.pick(FORMS)}`;
}

/** What somebody has a room for alone. */
export const ROOM_USES = ['Interviews', 'Visitors', 'Long call', 'Exam', 'Recording'];

const BOOKINGS: Record<ResourceKind, string[]> = {
  room: ['Room kept'],
  lab: ['Sample processing', 'Filtering', 'Microscopy', 'Sorting', 'Calibration bath'],
  desk: ['At the desk'],
  equipment: ['Harbour test', 'Fjord survey', 'Training', 'Field week kit'],
  vehicle: ['Drive to the field site', 'Mooring service', 'Sample pick-up', 'Harbour run'],
  parking: ['Visitor', 'Delivery'],
};

export const bookingTitle = (random: Random, kind: ResourceKind): string =>
  random.pick(BOOKINGS[kind]);
