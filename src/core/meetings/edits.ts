import { differOnlyInEnd, parseRule } from '../recurrence/rule.ts';
import { correspondence, type EventTiming } from '../recurrence/series.ts';
import type { Edit } from '../edits.ts';
import { same } from '../same.ts';
import type { WallTime } from '../time/wall.ts';
import {
  isSeries,
  NOTHING_OF_ITS_OWN,
  planOf,
  type Answer,
  type Meeting,
  type OccurrenceDetails,
  type OccurrenceOverride,
  type Participant,
  type Proposal,
} from './meeting.ts';
import { eachField, FIELD_NAMES, type MeetingFields } from './fields.ts';
import { participantKey } from './people.ts';

type Values = Map<string, unknown>;

const answer = ({ reply, note, askedAt, repliedAt, stamp }: Answer): Answer => ({
  reply,
  note,
  askedAt,
  repliedAt,
  stamp,
});

/** When it happens, as one value: dates of their own mean nothing without the rule that names them. */
const shapeOf = ({ timing, endZone, rule }: Meeting) => ({ timing, endZone, rule });

type Shape = ReturnType<typeof shapeOf>;

/** Whether a change of shape gives the dates other names, or may. */
function renamesDates(from: Shape, to: Shape): boolean {
  if (same(from.timing, to.timing) && same(from.rule, to.rule)) return false;
  if (from.rule === null || to.rule === null || !same(from.timing, to.timing)) return true;
  return !differOnlyInEnd(parseRule(from.rule), parseRule(to.rule));
}

/** A meeting as single values by their paths; what is not there has no path. */
function valuesOf(meeting: Meeting): Values {
  const values: Values = new Map();
  for (const name of FIELD_NAMES) values.set(name, meeting[name]);
  values.set('rights', meeting.rights);
  values.set('draft', meeting.draft);
  values.set('status', { status: meeting.status, cancelledAt: meeting.cancelledAt });
  values.set('shape', shapeOf(meeting));
  for (const id of meeting.resources) values.set(`resource/${id}`, true);
  for (const at of meeting.except) values.set(`except/${at}`, true);
  for (const { recurrenceId, timing, details } of meeting.overrides) {
    const set = (name: string, value: unknown) => {
      if (value !== null) values.set(`override/${recurrenceId}/${name}`, value);
    };
    set('timing', timing);
    for (const [name, value] of Object.entries(details)) set(name, value);
  }
  for (const participant of meeting.participants) {
    const { personId, name, email, role } = participant;
    values.set(`participant/${participantKey(participant)}`, { personId, name, email, role });
    const path = `answer/${participantKey(participant)}`;
    values.set(path, answer(participant));
    // As answers do, they follow from what people are asked.
    if (participant.proposals.length > 0) values.set(`${path}/proposals`, participant.proposals);
    for (const [at, one] of Object.entries(participant.occurrences)) {
      values.set(`${path}/${at}`, answer(one));
    }
  }
  return values;
}

/** What a change touched, and nothing else; from when answers count follows from it. */
export function editsBetween(before: Meeting, after: Meeting): Edit[] {
  const [old, next] = [valuesOf(before), valuesOf(after)];
  const paths = new Set([...old.keys(), ...next.keys()]);
  const renames = renamesDates(old.get('shape') as Shape, next.get('shape') as Shape);
  return [...paths]
    .filter((path) => !isMinReplySequence(path))
    .filter((path) => !same(old.get(path), next.get(path)) || (renames && isShape({ path })))
    .map((path) => ({ path, from: old.get(path) ?? null, to: next.get(path) ?? null }));
}

/**
 * Edits by the names that their dates have now, after later changes gave them others.
 * @param later the edits of each later change that stands, in order
 */
export function underPresentNames(
  edits: readonly Edit[],
  later: readonly (readonly Edit[])[],
): Edit[] {
  return later.reduce<Edit[]>(
    (named, change) => {
      const shape = change.find((edit) => edit.path === 'shape');
      const [from, to] = [shape?.from as Shape | undefined, shape?.to as Shape | undefined];
      if (!from?.rule || !to?.rule || !renamesDates(from, to)) return named;
      const dates = named.flatMap(({ path }) => dateIn(path) ?? []);
      const names = correspondence(
        { startsAt: from.timing.startsAt, rule: from.rule },
        { startsAt: to.timing.startsAt, rule: to.rule },
        [...new Set(dates)],
      );
      return named.map((edit) => {
        const date = dateIn(edit.path);
        const name = date && names.get(date);
        return name ? { ...edit, path: edit.path.replace(date, name) } : edit;
      });
    },
    [...edits],
  );
}

/** The date that a path is about, if it is about one. */
export const dateIn = (path: string): WallTime | undefined =>
  /\/(\d{4}-\d{2}-\d{2}T\d{2}:\d{2})/.exec(path)?.[1];

/** Parts of a meeting's shape: where dates are renamed, they are taken back together or not at all. */
const isShape = ({ path }: Pick<Edit, 'path'>) =>
  path === 'shape' || path.startsWith('except/') || path.startsWith('override/');

const isMinReplySequence = (path: string): boolean => path.endsWith('/minReplySequence');

const roleIn = (value: unknown): unknown => (value as { role?: unknown } | null)?.role;

/** Whether a change of people is one of who organizes it. */
export const isOfHost = ({ path, from, to }: Edit): boolean =>
  path.startsWith('participant/') && [from, to].some((value) => roleIn(value) === 'organizer');

const isResource = ({ path }: Edit): boolean => path.startsWith('resource/');

/** Whether another place was chosen since for one that a change took: one that it gave went, or one came. */
function hasChosenSince(
  edits: readonly Edit[],
  later: readonly (readonly Edit[])[],
  stands: (edit: Edit) => boolean,
): boolean {
  const places = edits.filter(isResource);
  if (!places.some(({ to }) => to === null)) return false;
  const known = new Set(places.map(({ path }) => path));
  const came = later.flat().filter((edit) => isResource(edit) && edit.to !== null);
  return places.some((edit) => !stands(edit)) || came.some(({ path }) => !known.has(path));
}

/**
 * Takes edits back: each value that still is what the change made of it becomes what it was. What
 * has been changed since is left alone; a place that was taken away stays away where another was chosen since.
 * @param later the edits of each later change that stands, in order
 * @returns the meeting, with the numbers it had, and the edits that were left alone
 */
export function takeBack(
  meeting: Meeting,
  edits: readonly Edit[],
  later: readonly (readonly Edit[])[] = [],
): { meeting: Meeting; left: Edit[] } {
  const values = valuesOf(meeting);
  const isAsMade = (edit: Edit) => same(values.get(edit.path), edit.to);
  const chosenSince = hasChosenSince(edits, later, isAsMade);
  const stands = (edit: Edit) => isAsMade(edit) && !(chosenSince && isResource(edit));
  const shape = edits.find((edit) => edit.path === 'shape');
  const reshaped = !!shape && renamesDates(shape.from as Shape, shape.to as Shape);
  // Names of occurrences depend on the rule: a changed rule goes back with all of them, or stays.
  const shapeStands =
    !reshaped || (edits.filter(isShape).every(stands) && !addedSince(values, edits));
  // Who organizes it goes back with all who changed places over it, or not at all: there is always one.
  const hostsStand = edits.filter(isOfHost).every(stands);
  const left: Edit[] = [];
  for (const edit of edits) {
    const undone =
      reshaped && isShape(edit) ? shapeStands : isOfHost(edit) ? hostsStand : stands(edit);
    if (!undone) left.push(edit);
    else if (edit.from === null || edit.from === undefined) values.delete(edit.path);
    else values.set(edit.path, edit.from);
  }
  // From when answers to a date count says nothing once the date has another name.
  if (reshaped && shapeStands)
    for (const path of [...values.keys()]) if (isMinReplySequence(path)) values.delete(path);
  const restored = meetingOf(meeting, values);
  return {
    meeting: reshaped && shapeStands ? withRenamedAnswers(meeting, restored) : restored,
    left,
  };
}

/** Answers to single dates, and times asked for, that were given under the names that go with the change. */
function withRenamedAnswers(present: Meeting, restored: Meeting): Meeting {
  if (!isSeries(present) || !isSeries(restored)) return restored;
  const given = present.participants.flatMap((one) => [
    ...Object.keys(one.occurrences),
    ...one.proposals.flatMap(({ occurrence }) => occurrence ?? []),
  ]);
  const names = correspondence(planOf(present), planOf(restored), [...new Set(given)]);
  const before = new Map(present.participants.map((one) => [one.id, one.occurrences]));
  const asked = new Map(present.participants.map((one) => [one.id, one.proposals]));
  return {
    ...restored,
    participants: restored.participants.map((one) => {
      const answers = Object.entries(before.get(one.id) ?? {});
      const known = Object.entries(one.occurrences).filter(([at]) => !before.get(one.id)?.[at]);
      const renamed = answers.flatMap(([at, answer]) => {
        const name = names.get(at);
        return name ? [[name, answer] as const] : [];
      });
      // Times that were asked for since are for dates by the names that go.
      const proposals = same(one.proposals, asked.get(one.id))
        ? one.proposals.flatMap((time) => {
            const occurrence = time.occurrence && names.get(time.occurrence);
            return occurrence || time.occurrence === null
              ? [{ ...time, occurrence: occurrence ?? null }]
              : [];
          })
        : one.proposals;
      return { ...one, proposals, occurrences: Object.fromEntries([...known, ...renamed]) };
    }),
  };
}

/** Whether a date got something of its own since a change of the rule, which would lose its name. */
function addedSince(values: Values, edits: readonly Edit[]): boolean {
  const known = new Set(edits.map((edit) => edit.path));
  return [...values.keys()].some(
    (path) =>
      isShape({ path }) && path !== 'shape' && !isMinReplySequence(path) && !known.has(path),
  );
}

/** A meeting with the values given. */
function meetingOf(meeting: Meeting, values: Values): Meeting {
  const under = (prefix: string) =>
    [...values].flatMap(([path, value]) =>
      path.startsWith(prefix) ? [[path.slice(prefix.length), value] as const] : [],
    );
  const shape = values.get('shape') as Pick<Meeting, 'timing' | 'endZone' | 'rule'>;
  const overrides = new Map<WallTime, OccurrenceOverride>();
  for (const [rest, value] of under('override/')) {
    const [at, name] = [rest.slice(0, rest.indexOf('/')), rest.slice(rest.indexOf('/') + 1)];
    const one = overrides.get(at) ?? {
      recurrenceId: at,
      cancelled: false,
      timing: null,
      details: NOTHING_OF_ITS_OWN,
    };
    overrides.set(
      at,
      name === 'timing'
        ? { ...one, timing: value as EventTiming }
        : { ...one, details: { ...one.details, [name]: value } as OccurrenceDetails },
    );
  }
  const people = under('participant/');
  const host = people.find(([, value]) => roleIn(value) === 'organizer')?.[1] as
    Pick<Participant, 'personId'> | undefined;
  return {
    ...meeting,
    ...shape,
    organizerId: meeting.organizerId === null ? null : (host?.personId ?? meeting.organizerId),
    ...(values.get('status') as Pick<Meeting, 'status' | 'cancelledAt'>),
    ...(Object.fromEntries(FIELD_NAMES.map((name) => [name, values.get(name)])) as MeetingFields),
    rights: values.get('rights') as Meeting['rights'],
    draft: (values.get('draft') as Meeting['draft'] | undefined) ?? null,
    resources: under('resource/').map(([id]) => Number(id)),
    except: under('except/')
      .map(([at]) => at)
      .sort(),
    overrides: [...overrides.values()].map((one) => ({
      ...one,
      cancelled: one.details.cancelledAt !== null,
    })),
    participants: people.map(([key, value]) => ({
      ...(meeting.participants.find((one) => participantKey(one) === key) ?? {
        id: 0,
        nudgedAt: null,
      }),
      ...(value as Pick<Participant, 'personId' | 'name' | 'email' | 'role'>),
      ...(values.get(`answer/${key}`) as Answer),
      proposals: (values.get(`answer/${key}/proposals`) as Proposal[] | undefined) ?? [],
      occurrences: Object.fromEntries(
        under(`answer/${key}/`)
          .filter(([at]) => at !== 'proposals')
          .map(([at, one]) => [at, one as Answer]),
      ),
    })),
  };
}

const NAMES: Record<string, string> = {
  ...eachField((field) => field.name),
  rights: 'what invitees may do',
  status: 'cancellation',
  draft: 'draft',
  shape: 'time',
  resource: 'resources',
  except: 'dates left out',
  override: 'single dates',
  participant: 'people',
  answer: 'answers',
};

/** What edits were about, in words, each once. */
export const namesOf = (edits: readonly Edit[]): string[] => [
  ...new Set(edits.map(({ path }) => NAMES[path.split('/')[0]!] ?? path)),
];
