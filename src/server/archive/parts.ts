/** What of a table is somebody's, whose number is $1. */
export interface Part {
  table: string;
  /** Which rows. */
  of: string;
  /** Columns that are secret, or somebody else's. */
  without?: readonly string[];
}

/** What they organize, and what they are asked to; not what is not sent to them yet. */
const MINE = `(select id from event
               where organizer_id = $1
                 or draft is null and id in (select event_id from attendance where person_id = $1))`;

/**
 * What an archive of somebody holds, a file of JSON each. A test looks through every column that names people: each
 * stands here, or among what is not theirs.
 */
export const PARTS: readonly Part[] = [
  { table: 'person', of: 'subject_id = $1', without: ['password_hash'] },
  { table: 'subject', of: 'id = $1' },
  { table: 'preference', of: 'person_id = $1' },
  { table: 'working_shift', of: 'person_id = $1' },
  { table: 'team_member', of: 'person_id = $1' },
  { table: 'charge', of: 'person_id = $1' },
  { table: 'coordination', of: 'person_id = $1' },
  { table: 'delegate', of: 'principal_id = $1 or delegate_id = $1' },
  { table: 'category', of: 'owner_id = $1' },
  { table: 'event_category', of: 'person_id = $1' },
  { table: 'layer', of: 'owner_id = $1' },
  { table: 'line_up', of: 'owner_id = $1' },
  { table: 'ledger_view', of: 'owner_id = $1' },
  { table: 'favourite_place', of: 'person_id = $1' },
  { table: 'reminder', of: 'person_id = $1' },
  { table: 'reminder_choice', of: 'person_id = $1' },
  { table: 'reminder_notice', of: 'person_id = $1' },
  { table: 'event', of: `id in ${MINE}`, without: ['draft'] },
  { table: 'occurrence_override', of: `event_id in ${MINE}` },
  { table: 'attendance', of: `person_id = $1 and event_id in ${MINE}` },
  {
    table: 'occurrence_reply',
    of: `attendee_id in (select id from attendance where person_id = $1) and event_id in ${MINE}`,
  },
  { table: 'claim', of: 'subject_id = $1' },
  { table: 'reservation', of: 'holder_id = $1' },
  { table: 'booking_note', of: 'event_id in (select id from event where organizer_id = $1)' },
  { table: 'no_show', of: 'person_id = $1' },
  { table: 'waiting', of: 'person_id = $1' },
  { table: 'comment', of: 'author_id = $1' },
  { table: 'attachment', of: 'added_by = $1' },
  { table: 'notification', of: 'person_id = $1' },
  { table: 'believed_sender', of: 'person_id = $1' },
  { table: 'published_calendar', of: 'person_id = $1' },
  { table: 'incoming_mail', of: 'person_id = $1' },
  {
    table: 'mail',
    of: 'person_id = $1 or recipient_email = (select email from person where subject_id = $1)',
    without: ['body_html'],
  },
  // What it was about may be private to others.
  { table: 'fact', of: 'actor_id = $1', without: ['details'] },
  { table: 'session', of: 'person_id = $1', without: ['token_hash'] },
  { table: 'device', of: 'person_id = $1', without: ['token_hash'] },
  { table: 'passkey', of: 'person_id = $1', without: ['credential_id', 'public_key'] },
  { table: 'provider_identity', of: 'person_id = $1' },
];

/** Columns that name people and are no part of what is theirs, and why. */
export const NOT_THEIRS: Record<string, string> = {
  'idempotency_key.person_id': 'what was asked for in the last day, so that it is done once',
  'account_link.person_id': 'a secret, for an hour or seven days',
  'passkey_challenge.person_id': 'a secret, for minutes',
  'sign_in_attempt.person_id': 'a secret, for minutes',
  'event.created_by': 'who typed it, which the log says',
  'closure.made_by': 'of a place, which the log says',
  'revision.by_id': 'how a change is taken back, which the log says',
  'resource.owner_id': 'a place, which the organization keeps',
  'team.lead_id': 'a team, which the organization keeps',
  'person.deputy_id': 'of the steward for whom they stand in',
  'coordination.team_id': 'a team',
};
