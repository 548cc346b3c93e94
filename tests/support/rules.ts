/**
 * What holds of the database whenever nobody is writing, whatever happened before: in SQL of its own, so that it
 * shares nothing with what writes it.
 */
const RULES: Record<string, string> = {
  'two claims of one unit overlap': `
    select one.id::text || ' and ' || other.id::text as what
    from claim one join claim other
      on one.subject_id = other.subject_id and one.unit = other.unit and one.id < other.id
     and one.during && other.during
    where one.exclusive and other.exclusive`,
  'a reservation that stands has not the one claim that it needs': `
    select reservation.id::text as what
    from reservation
    left join claim on claim.reservation_id = reservation.id
    where reservation.state in ('requested', 'held', 'in-use')
    group by reservation.id
    having count(claim.id) <> 1
        or bool_or(claim.subject_id <> reservation.resource_id or claim.unit <> reservation.unit
                   or not claim.exclusive or claim.occurrence_id <> reservation.occurrence_id
                   or lower(claim.during) > reservation.starts_at
                   or upper(claim.during) < coalesce(reservation.left_at, reservation.ends_at))`,
  'a reservation that was given back has a claim': `
    select reservation.id::text as what
    from reservation join claim on claim.reservation_id = reservation.id
    where reservation.state = 'released'`,
  'a reservation is not at the time of its date': `
    select reservation.id::text as what
    from reservation join occurrence on occurrence.id = reservation.occurrence_id
    where reservation.state <> 'released'
      and (reservation.starts_at <> occurrence.starts_at or reservation.ends_at <> occurrence.ends_at)`,
  'a meeting that is over holds a place': `
    select event.id::text as what
    from event join occurrence on occurrence.event_id = event.id
    join claim on claim.occurrence_id = occurrence.id
    where event.status = 'cancelled'`,
  'a meeting that happens once has not one date': `
    select event.id::text as what from event
    left join occurrence on occurrence.event_id = event.id
    where event.rule is null group by event.id having count(occurrence.id) <> 1`,
  'whose time is taken is not who comes': `
    with wanted as (
      select occurrence.id as occurrence_id, attendee.person_id,
             -- Whole days from elsewhere are dates, and begin where somebody is.
             case when own_days.first is null then occurrence.starts_at
                  else timezone(person.zone, own_days.first::timestamp) end as starts_at,
             case when own_days.first is null then occurrence.ends_at
                  else timezone(person.zone, own_days.after::timestamp) end as ends_at
      from occurrence
      join event on event.id = occurrence.event_id and event.status = 'confirmed'
      join attendance attendee on attendee.event_id = event.id and attendee.person_id is not null
        and (attendee.left_at is null or occurrence.starts_at < attendee.left_at)
      left join occurrence_reply alone on alone.attendee_id = attendee.id
        and alone.event_id = event.id and alone.recurrence_at = occurrence.recurrence_at
      join person on person.subject_id = attendee.person_id
      left join occurrence_override own on own.event_id = event.id
        and own.recurrence_at = occurrence.recurrence_at
      left join lateral (
        select timezone(coalesce(own.zone, event.zone), occurrence.starts_at)::date as first,
               timezone(coalesce(own.zone, event.zone), occurrence.ends_at)::date as after
        where event.organizer_id is null and coalesce(own.all_day, event.all_day)) own_days on true
      where coalesce(alone.reply, attendee.reply) <> 'declined'),
    taken as (
      select occurrence_id, subject_id, lower(during) as starts_at, upper(during) as ends_at
      from claim where not exclusive and occurrence_id is not null
        and subject_id in (select subject_id from person))
    (select 'not taken: ' || occurrence_id || ' of ' || person_id as what
     from (select * from wanted except select * from taken) missing)
    union all
    (select 'taken: ' || occurrence_id || ' of ' || subject_id
     from (select * from taken except select * from wanted) more)`,
  'a reservation is of another meeting than its date': `
    select reservation.id::text as what
    from reservation join occurrence on occurrence.id = reservation.occurrence_id
    where reservation.event_id <> occurrence.event_id`,
  'the bookings of a place in a week are not those that are counted': `
    with there as (
      select resource_id as place, state, count(*) as number, sum(extract(epoch from ends_at - starts_at)) / 60 as minutes,
             (starts_at at time zone 'UTC')::date - (extract(isodow from starts_at at time zone 'UTC')::int - 1) as monday
      from reservation group by 1, 2, 5),
    kept as (
      select resource_id as place, state, sum(bookings) as number, sum(minutes) as minutes, week as monday
      from (table booking_tally union all table booking_tally_change) both_of_them group by 1, 2, 5)
    select concat_ws(' ', place, state, monday, there.number, kept.number) as what
    from there full join kept using (place, state, monday)
    where (coalesce(there.number, 0), coalesce(there.minutes, 0))
      is distinct from (coalesce(kept.number, 0), coalesce(kept.minutes, 0))`,
  'somebody answers for a date of what they are not asked to': `
    select attendee.id::text as what
    from occurrence_reply join attendance attendee on attendee.id = occurrence_reply.attendee_id
    where occurrence_reply.event_id <> attendee.event_id`,
  'a meeting has not one organizer': `
    select event.id::text as what from event
    left join attendee on attendee.event_id = event.id and attendee.role = 'organizer'
    group by event.id having count(attendee.id) <> 1`,
  // One that has just left may still have its job, which then finds nothing to do.
  'a letter that waits has nobody who sends it': `
    select mail.id::text as what
    from mail left join job on job.kind = 'letter' and job.key = mail.id::text
    where mail.sent_at is null and mail.failed_at is null and job.id is null`,
  'a job is of a letter that is none': `
    select job.id::text as what from job
    where job.kind = 'letter' and not exists (select from mail where mail.id::text = job.key)`,
  'a request was kept without its answer': `
    select key as what from idempotency_key where status is null`,
  'a change can be taken back that was never made': `
    select revision.event_id::text as what
    from revision join event on event.id = revision.event_id
    where revision.version > event.version`,
};

type Query = (text: string) => Promise<{ rule: string; what: string }[]>;

/** All of them as one question: what breaks each, at most five of it. */
const ALL = Object.entries(RULES)
  .map(([rule, text]) => `(select '${rule}' as rule, what from (${text}) broken limit 5)`)
  .join(' union all ');

/** The rules that do not hold, each with what breaks it. */
export async function brokenRules(query: Query): Promise<string[]> {
  const rows = await query(ALL);
  return Object.keys(RULES).flatMap((rule) => {
    const broken = rows.filter((row) => row.rule === rule);
    return broken.length > 0 ? [`${rule}: ${broken.map((row) => row.what).join('; ')}`] : [];
  });
}
