import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { ChangedEvent } from '../../contract/eventDetail.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();

const takenBy = async (id: string, name: string) =>
  (
    await server.sql<{ occupancy: string }>(
      `select claim.occupancy from claim
       join occurrence on occurrence.id = claim.occurrence_id
       join subject on subject.id = claim.subject_id
       where occurrence.event_id = $1 and subject.name = $2 order by occurrence.starts_at`,
      [id, name],
    )
  ).map((row) => row.occupancy);

/** What was written to somebody about a meeting: the words, and the lines of the calendar part. */
async function lettersTo(mailbox: string, id: string) {
  const mails = await server.sql<{ text: string; calendar: string }>(
    `select body_text as text, calendar from mail
     where event_id = $1 and recipient_email like $2 and calendar is not null`,
    [id, `${mailbox}@%`],
  );
  return mails.map(({ text, calendar }) => ({ text, lines: calendar.split('\r\n') }));
}

describe('a meeting that is not certain yet, with a priority', () => {
  it('holds everybody’s time tentatively, says so in letters, and is told when it is certain', async () => {
    const ines = await server.as('ines.aldabe');
    const tomas = await server.as('tomas.okafor');
    const made = await ines.post<ChangedEvent>(
      '/api/events',
      meetingRequest({
        title: 'Moorings, perhaps',
        priority: 1,
        certainty: 'tentative',
        times: bergenTimes('2027-02-01T10:00', '2027-02-01T11:00'),
        repeats: { rule: 'FREQ=DAILY;COUNT=3', except: [] },
        attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
      }),
    );
    expect(made.body).toMatchObject({ priority: 1, certainty: 'tentative' });
    const { id } = made.body;
    await tomas.post(`/api/invitations/${id}/reply`, { reply: 'accepted' });
    for (const name of ['Ines Aldabe', 'Tomas Okafor'])
      expect(await takenBy(id, name)).toEqual(['tentative', 'tentative', 'tentative']);
    const [asked, ...none] = await lettersTo('tomas.okafor', id);
    expect(none).toEqual([]);
    expect(asked!.lines).toEqual(expect.arrayContaining(['PRIORITY:1', 'STATUS:TENTATIVE']));

    // One date is certain, and of another weight.
    const one = await ines.request<ChangedEvent>('PATCH', `/api/events/${id}`, {
      version: made.body.version,
      scope: 'one',
      occurrence: '2027-02-02T10:00',
      certainty: 'confirmed',
      priority: 9,
    });
    expect(one.body).toMatchObject({ certainty: 'confirmed', priority: 9 });
    for (const name of ['Ines Aldabe', 'Tomas Okafor'])
      expect(await takenBy(id, name)).toEqual(['tentative', 'busy', 'tentative']);
    const told = (await lettersTo('tomas.okafor', id)).find(({ lines }) =>
      lines.includes('STATUS:CONFIRMED'),
    )!;
    expect(told.text).toContain('It is certain now.');
    expect(told.text).toContain('Low priority now.');
    expect(told.lines).toContain('PRIORITY:9');

    const back = await ines.post<ChangedEvent>(`/api/events/${id}/undo`, {
      version: one.body.version,
    });
    expect(back.status).toBe(200);
    expect(await takenBy(id, 'Tomas Okafor')).toEqual(['tentative', 'tentative', 'tentative']);
    const all = await ines.request<ChangedEvent>('PATCH', `/api/events/${id}`, {
      version: back.body.version,
      certainty: 'confirmed',
    });
    expect(all.body).toMatchObject({ certainty: 'confirmed', priority: 1 });
    expect(await takenBy(id, 'Ines Aldabe')).toEqual(['busy', 'busy', 'busy']);
  });

  it('says what is allowed where it is neither', async () => {
    const ines = await server.as('ines.aldabe');
    const refused = await ines.post<ProblemBody>('/api/events', {
      ...meetingRequest(),
      priority: 10,
      certainty: 'perhaps',
    });
    expect(refused.status).toBe(400);
    expect(refused.body.fields).toEqual([
      { field: 'priority', message: 'may be at most 9' },
      { field: 'certainty', message: 'must be "confirmed" or "tentative"' },
    ]);
  });
});
