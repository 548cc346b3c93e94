import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { counted } from '../../core/counted.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import {
  CHOICE_FIELD_NAMES,
  fieldOf,
  RICH_FIELD_NAMES,
  shownOf,
} from '../../core/meetings/fields.ts';
import { formatSpan, zoneCity } from '../../core/time/format.ts';
import { useMe } from '../client/index.ts';
import { invitationAddress, REPLY_WORDS, ReplyMark, Undelivered } from '../invitations/index.ts';
import { AgendaLength } from './AgendaLength.tsx';
import { AttachmentList } from './Attachments.tsx';
import { MARK_CLASSES, markStyle, useCategoryMap } from '../grid/index.ts';
import { reminderWords } from '../meetings/index.ts';

/** What an event says by its choices, where that is not the usual: a sentence each. */
const chosenWords = (event: EventDetail): string[] =>
  CHOICE_FIELD_NAMES.flatMap((name) => shownOf(name, event[name]) ?? []);

/** An event in words: when, where, who, what about. */
export function EventFacts({ event }: { event: EventDetail }) {
  const me = useMe();
  const category = useCategoryMap().get(event.categoryId ?? -1);
  const foreign = event.zone !== me.zone && event.zone !== 'UTC' && !event.allDay;
  const endElsewhere = event.endZone !== null && !event.allDay;
  const place = [
    event.place,
    ...event.resources.map(
      ({ name, site, isAsked }) => `${name}, ${site}${isAsked ? ', if a steward agrees' : ''}`,
    ),
  ].filter(Boolean);
  return (
    <div className="grid gap-3">
      <div>
        <p className="font-semibold">{formatSpan(event, me.zone, me.clock)}</p>
        {foreign && (
          <p className="text-ink-2">
            {formatSpan(event, event.zone, me.clock)} in{' '}
            {me.zoneNames[event.zone] ?? zoneCity(event.zone)}
          </p>
        )}
        {endElsewhere && (
          <p className="text-ink-2">
            Ends {event.endsAt.slice(11)} {zoneCity(event.endZone!)} time
          </p>
        )}
        {event.series && (
          <p className="text-ink-2">
            {event.series.sentence}
            {event.series.except.length + event.series.cancelled.length > 0 &&
              `, but not on ${counted(event.series.except.length + event.series.cancelled.length, 'date')}`}
            {event.series.recurrenceId !== null &&
              event.series.changed.includes(event.series.recurrenceId) &&
              '. This date differs from the others'}
          </p>
        )}
        {event.clockNotes.map((note) => (
          <p key={note} className="text-ink-2">
            {note}
          </p>
        ))}
        {event.status === 'cancelled' && <p className="font-semibold text-alpenglow">Cancelled</p>}
        {place.length > 0 && <p>{place.join('; ')}</p>}
        {category && (
          <p className="mt-1 flex items-center gap-2">
            <i
              className={`h-4 w-3 rounded-sm ${MARK_CLASSES[category.pattern]}`}
              style={markStyle(category.colour)}
            />
            {category.name}
          </p>
        )}
        {!event.draft &&
          chosenWords(event).map((words) => (
            <p key={words} className="text-ink-2">
              {words}
            </p>
          ))}
        {event.reminders.length > 0 && (
          <p className="text-ink-2">Reminder {event.reminders.map(reminderWords).join('; ')}</p>
        )}
      </div>
      {event.attendees.length > 1 && (
        <ul className="grid gap-1">
          {event.attendees.map((one) => (
            <li key={one.id} className="flex items-center gap-2">
              <ReplyMark reply={one.reply} />
              {one.name}
              <span className="text-ink-2">
                {one.role === 'organizer'
                  ? 'organizer'
                  : event.draft
                    ? 'not asked yet'
                    : REPLY_WORDS[one.reply]}
                {one.role === 'optional' && ', optional'}
                {one.undelivered && <Undelivered reason={one.undelivered} />}
              </span>
              {one.role !== 'organizer' &&
                !event.draft &&
                me.coordinates.some(({ id }) => id === one.personId) && (
                  <Link
                    className="reach text-sm font-semibold text-gentian hover:underline"
                    to={invitationAddress({
                      eventId: event.id,
                      occurrence: event.series?.recurrenceId ?? null,
                      for: { id: one.personId!, name: one.name },
                    })}
                  >
                    Answer for {one.name.split(' ')[0]}
                  </Link>
                )}
            </li>
          ))}
        </ul>
      )}
      {RICH_FIELD_NAMES.map((name) => (
        <RichSection
          key={name}
          {...(name !== 'description' && { title: fieldOf(name).label })}
          html={event[name]}
        >
          {name === 'agenda' && !event.allDay && <AgendaLength html={event.agenda} span={event} />}
        </RichSection>
      ))}
      <AttachmentList event={event} />
    </div>
  );
}

/** Text that the server has cleaned. */
function RichSection({
  title,
  html,
  children,
}: {
  title?: string;
  html: string;
  children?: ReactNode;
}) {
  if (!html) return null;
  return (
    <section>
      {title && <h3 className="mb-1 text-[14px]">{title}</h3>}
      {children}
      <div className="prose-text" dangerouslySetInnerHTML={{ __html: html }} />
    </section>
  );
}
