import type { Attachment, EventDetail } from '../../../contract/eventDetail.ts';
import type { Participant } from '../../../core/meetings/meeting.ts';
import { instantJson } from '../../db/json.ts';
import type { Database } from '../../db/transaction.ts';

/** What a detail says beside the meeting itself. */
export interface EventSurroundings {
  resources: EventDetail['resources'];
  attachments: Attachment[];
  categoryId: number | null;
  reminders: EventDetail['reminders'];
  /** Whom the last letter about it did not reach, by attendee, and why. */
  undelivered: Record<string, string>;
  /** Who took part until they left, and when that was, in epoch milliseconds. */
  left: {
    personId: number;
    name: string;
    email: string;
    role: Participant['role'];
    reply: Participant['reply'];
    invitedAt: number;
    repliedAt: number | null;
    leftAt: number;
  }[];
}

/** Reads it in one statement, with what one person has of their own about the event. */
export async function readSurroundings(
  db: Database,
  eventId: string,
  personId: number,
  resourceIds: readonly number[],
): Promise<EventSurroundings> {
  const { rows } = await db.query<EventSurroundings>(
    `select
       coalesce((select json_agg(json_build_object('id', subject.id, 'name', subject.name,
                                   'site', site.name, 'seats', resource.capacity,
                                   'isAsked', exists (
                                     select 1 from occurrence
                                     join reservation on occurrence_id = occurrence.id
                                     where occurrence.event_id = $1 and state = 'requested'
                                       and resource_id = subject.id))
                                 order by subject.name)
                 from resource
                 join subject on subject.id = resource.subject_id
                 join site on site.id = resource.site_id
                 where subject.id = any($3)), '[]') as resources,
       coalesce((select json_agg(json_build_object('id', attachment.id, 'name', attachment.name,
                                   'type', stored_file.type, 'size', stored_file.size,
                                   'addedBy', subject.name,
                                   'addedAt', ${instantJson('attachment.added_at')})
                                 order by attachment.added_at, attachment.name)
                 from attachment
                 join stored_file on stored_file.id = attachment.file_id
                 join subject on subject.id = attachment.added_by
                 where attachment.event_id = $1), '[]') as attachments,
       (select category_id from event_category
        where event_id = $1 and person_id = $2) as "categoryId",
       coalesce((select json_agg(json_build_object('personId', person_id, 'name', subject.name,
                                   'email', person.email, 'role', attendance.role, 'reply', reply,
                                   'invitedAt', ${instantJson('invited_at')},
                                   'repliedAt', ${instantJson('replied_at')},
                                   'leftAt', ${instantJson('left_at')})
                                 order by left_at, subject.name)
                 from attendance
                 join subject on subject.id = attendance.person_id
                 join person on person.subject_id = attendance.person_id
                 where attendance.event_id = $1 and left_at is not null), '[]') as left,
       case when exists (select 1 from attendee
                         where event_id = $1 and person_id = $2 and role <> 'organizer')
             and not exists (select 1 from reminder_choice where event_id = $1 and person_id = $2)
            -- Whoever is invited has those of their preferences until they choose.
            then coalesce((select default_reminders from preference where person_id = $2),
                          '[{"minutes": 10, "means": "popup"}]')
            else coalesce((select jsonb_agg(jsonb_build_object('minutes', minutes_before,
                                              'means', means) order by minutes_before, means)
                           from reminder where event_id = $1 and person_id = $2), '[]')
       end as reminders,
       coalesce((select json_object_agg(attendee_id, failure)
                 from (select distinct on (attendee_id) attendee_id, failure
                       from mail
                       where event_id = $1 and attendee_id is not null
                         and (sent_at is not null or failed_at is not null)
                       order by attendee_id, created_at desc) latest
                 where failure is not null), '{}') as undelivered`,
    [eventId, personId, resourceIds],
  );
  return rows[0]!;
}
