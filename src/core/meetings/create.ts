import type { InviteeRights } from './rights.ts';
import { withChoices, type DateChoice } from './dates.ts';
import type { Decision } from './decision.ts';
import type { Known } from './change.ts';
import { FIELD_NAMES, pickFields, type MeetingFields } from './fields.ts';
import { withPlan, type Meeting, type Participant } from './meeting.ts';
import { askedAt } from './people.ts';
import { beginSeries, readTiming, type AskedTimes } from './timing.ts';

export interface CreateCommand extends MeetingFields {
  rights: InviteeRights;
  times: AskedTimes;
  repeats: { rule: string; except: WallTimes } | null;
  dates: readonly DateChoice[];
  resources: number[];
  /** Whether invitations are written now. */
  send: boolean;
  message: string;
  /** Set where it is not sent yet. */
  draft: { holds: boolean } | null;
}
type WallTimes = Meeting['except'];

/** Somebody to invite, already looked up. */
export type Invited = Pick<Participant, 'personId' | 'name' | 'email'> & {
  role: 'required' | 'optional';
};

/**
 * Makes a meeting, a private event or a booking, once or as a series.
 * @param organizer whose meeting it is
 * @throws Refusal naming the field that is wrong
 */
export function decideCreate(
  { send, message, times, repeats, dates, resources, rights, draft, ...fields }: CreateCommand,
  organizer: Pick<Participant, 'name' | 'email'> & { personId: number },
  invited: readonly Invited[],
  { now, newId }: Known,
): Decision {
  const { timing: asked, endZone, span } = readTiming(times);
  const begun = repeats ? beginSeries(asked, repeats) : null;
  const timing = begun?.timing ?? asked;
  const host: Participant = {
    ...askedAt({ ...organizer, role: 'required' }, now),
    role: 'organizer',
    reply: 'accepted',
  };
  const once: Meeting = {
    ...pickFields(FIELD_NAMES, fields),
    ...newId,
    sequence: 0,
    minReplySequence: 0,
    version: 1,
    organizerId: organizer.personId,
    timing,
    endZone,
    rule: null,
    except: [],
    overrides: [],
    rights,
    status: 'confirmed',
    draft: draft && { ...draft, invited: [...invited] },
    cancelledAt: null,
    resources,
    participants: [host, ...(draft ? [] : invited.map((one) => askedAt(one, now)))],
  };
  const after = repeats
    ? withPlan(once, withChoices({ ...timing, ...repeats, overrides: [] }, dates, resources))
    : once;
  return {
    changes: [{ before: null, after }],
    facts: [
      draft
        ? { kind: 'drafted', meetingId: after.id, occurrence: null, tell: false, message: '' }
        : { kind: 'invited', meetingId: after.id, occurrence: null, tell: send, message },
    ],
    notes: [...(begun?.notes ?? []), ...span.notes],
    answer: { id: after.id, occurrence: null },
    undo: null,
  };
}
