import { beforeAll, describe, expect, it } from 'vitest';
import type { AsideList } from '../../contract/incoming.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { readMail, receiveMail } from './receive.ts';

/*
 * Who is believed: every mixture of who a letter says it is from, whom its meeting names, who writes for whom, and
 * what the server that receives mail found. Nothing changes without a sender who is believed.
 */

const server = useServer();
const HOST = 'sunniva@fjordworks.example';
const HELPER = 'office@fjordworks.example';
const THIEF = 'thief@elsewhere.example';
const LEILA = 'leila.haddad@ternrock.example';
const INES = 'ines.aldabe@ternrock.example';
const GUEST = 'ola@drones.example';
const DESK = 'desk@drones.example';
const MX = 'mx.ternrock.example';

/** What the receiving server says of a letter: nothing, that it is true, false, or another server's word. */
const WORDS = {
  silent: () => [],
  true: (domain: string) => [`Authentication-Results: ${MX}; dmarc=pass header.from=${domain}`],
  false: (domain: string) => [`Authentication-Results: ${MX}; dmarc=fail header.from=${domain}`],
  another: (domain: string) => [
    `Authentication-Results: mx.evil.example; dmarc=pass header.from=${domain}`,
  ],
  below: (domain: string) => [
    `Authentication-Results: ${MX}; none`,
    `Authentication-Results: ${MX}; dmarc=pass header.from=${domain}`,
  ],
};
type Words = keyof typeof WORDS;

let number = 0;
const letter = (from: string | null, words: Words, calendar: string[], replyTo?: string) =>
  readMail(
    Buffer.from(
      [
        ...WORDS[words](from?.split('@')[1] ?? 'nowhere.example'),
        ...(from === null ? [] : [`From: <${from}>`]),
        ...(replyTo ? [`Reply-To: ${replyTo}`] : []),
        'Subject: Quay inspection',
        `Message-ID: <forged${number++}@x.example>`,
        'MIME-Version: 1.0',
        'Content-Type: text/calendar; charset=utf-8; method=REQUEST',
        '',
        ...calendar,
        '',
      ].join('\r\n'),
    ),
  );
const platformOf = (isChecked: boolean) => ({
  ...server.running.platform,
  mailServer: isChecked ? MX : null,
});

const request = (
  uid: string,
  {
    organizer = HOST,
    sentBy = '',
    attendee = LEILA,
    method = 'REQUEST',
    stamp = 0,
    title = 'Quay',
  },
) => [
  'BEGIN:VCALENDAR',
  'VERSION:2.0',
  `METHOD:${method}`,
  'BEGIN:VEVENT',
  `UID:${uid}`,
  `SEQUENCE:${stamp}`,
  `DTSTAMP:20261124T08${String(stamp).padStart(2, '0')}00Z`,
  `ORGANIZER${sentBy && `;SENT-BY="mailto:${sentBy}"`}:mailto:${organizer}`,
  `ATTENDEE:mailto:${attendee}`,
  'DTSTART:20270602T080000Z',
  'DTEND:20270602T090000Z',
  `SUMMARY:${title}`,
  'END:VEVENT',
  'END:VCALENDAR',
];

/** Everything that mail could have changed of a meeting. */
const stateOf = (uid: string) =>
  server.sql(
    `select title, status, sequence, starts_at, attendee.reply, attendee.note,
            (select count(*)::int from attendee where event_id = event.id) as people
     from event left join attendee on event_id = event.id and role <> 'organizer'
     where uid = $1 order by attendee.id`,
    [uid],
  );

/**
 * Hands over letters, some at a time, all about one meeting or each about one of its own.
 * @returns those that were taken, or after which something was otherwise
 */
async function fallenOf<Mixture>(
  mixtures: readonly Mixture[],
  uid: string,
  isOne: boolean,
  take: (mixture: Mixture, uid: string) => Promise<string>,
): Promise<string[]> {
  const fell: string[] = [];
  for (let from = 0; from < mixtures.length; from += 8) {
    const some = mixtures.slice(from, from + 8);
    const nameOf = (k: number) => (isOne ? uid : `${uid}-${from + k}`);
    const states = () => Promise.all(some.map((_, k) => stateOf(nameOf(k))));
    const before = await states();
    const took = await Promise.all(some.map((one, k) => take(one, nameOf(k))));
    const after = await states();
    fell.push(
      ...some
        .filter(
          (_, k) => took[k] !== 'aside' || JSON.stringify(before[k]) !== JSON.stringify(after[k]),
        )
        .map((one) => JSON.stringify(one)),
    );
  }
  return fell;
}

describe('a message about a meeting elsewhere', () => {
  const froms = [HOST, HELPER, THIEF, null];
  const organizers = [HOST, THIEF, INES];
  const senders = ['', HELPER, THIEF];
  const words = Object.keys(WORDS) as Words[];

  it('changes something only with a believed sender, in every mixture', async () => {
    const fell: string[] = [];
    let tried = 0;
    for (const isChecked of [false, true])
      for (const known of [false, true]) {
        const uid = `known-${isChecked}-${known}@fjordworks.example`;
        // Known here by its organizer's own letter, which names nobody else.
        if (known)
          await receiveMail(
            platformOf(false),
            await letter(HOST, 'silent', request(uid, {})),
            LEILA,
          );
        const mixtures = froms.flatMap((from) =>
          organizers.flatMap((organizer) =>
            senders.flatMap((sentBy) =>
              (isChecked ? words : (['silent', 'true'] as const)).flatMap((said) =>
                [LEILA, GUEST].flatMap((attendee) =>
                  ['REQUEST', 'CANCEL'].map((method) => ({
                    from,
                    organizer,
                    sentBy,
                    said,
                    attendee,
                    method,
                  })),
                ),
              ),
            ),
          ),
        );
        const forged = mixtures.filter(({ from, organizer, said }) => {
          const isTrue = !isChecked || said === 'true';
          // Whoever organizes it wrote it, from outside, and it is theirs.
          const isTheirs = from === organizer && organizer !== INES && isTrue;
          return !(isTheirs && (!known || organizer === HOST));
        });
        tried += forged.length;
        fell.push(
          ...(await fallenOf(forged, uid, known, async ({ from, said, ...rest }, name) => {
            const calendar = request(name, { ...rest, stamp: 9, title: 'Forged' });
            const mail = await letter(from, said, calendar, HOST);
            return (await receiveMail(platformOf(isChecked), mail, LEILA)).state;
          })),
        );
      }
    expect(fell).toEqual([]);
    expect(tried).toBeGreaterThan(800);
  }, 240_000);

  it('and with one it does, by what stands at the meeting', async () => {
    for (const [isChecked, said, why] of [
      [false, 'silent', 'which nothing here checks'],
      [true, 'true', `as ${MX} found by DMARC`],
    ] as const) {
      const uid = `good-${isChecked}@fjordworks.example`;
      const answer = await receiveMail(
        platformOf(isChecked),
        await letter(HOST, said, request(uid, {})),
        LEILA,
      );
      expect(answer).toEqual({ state: 'counted', reason: '' });
      const leila = await server.as('leila.haddad');
      const [{ id }] = (await server.sql<{ id: string }>('select id from event where uid = $1', [
        uid,
      ])) as [{ id: string }];
      const { body } = await leila.get<{ letters: { sender: string; why: string }[] }>(
        `/api/events/${id}/letters`,
      );
      expect(body.letters).toMatchObject([
        { sender: HOST, why: expect.stringContaining(why) as string },
      ]);
      // Whoever is not invited has no word of it.
      expect((await (await server.as('clara.weiss')).get(`/api/events/${id}/letters`)).status).toBe(
        404,
      );
    }
  });
});

describe('an answer to the organizer’s own address', () => {
  let event: EventDetail;
  let stamp = 10;
  beforeAll(async () => {
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Reef survey',
        times: bergenTimes('2027-09-07T10:00', '2027-09-07T11:00'),
        attendees: [
          { personId: await server.id('Leila Haddad'), role: 'required' },
          { email: GUEST, role: 'required' },
        ],
      }),
    );
    event = made.body;
  });
  const reply = (
    more: { attendee?: string; sentBy?: string; as?: string; lines?: string[] } = {},
  ) => [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'METHOD:REPLY',
    'BEGIN:VEVENT',
    `UID:${event.uid}`,
    'SEQUENCE:0',
    `DTSTAMP:20261124T08${stamp++ % 60}00Z`,
    `ATTENDEE;PARTSTAT=${more.as ?? 'ACCEPTED'}${more.sentBy ? `;SENT-BY="mailto:${more.sentBy}"` : ''}:mailto:${more.attendee ?? GUEST}`,
    ...(more.lines ?? []),
    'END:VEVENT',
    'END:VCALENDAR',
  ];
  const answers = async () =>
    Object.fromEntries(
      (
        await server.sql<{ email: string; reply: string }>(
          `select email, reply from participant where event_id = $1 and role <> 'organizer'`,
          [event.id],
        )
      ).map((one) => [one.email, one.reply]),
    );
  const asideOf = async () =>
    (await (await server.as('ines.aldabe')).get<AsideList>(`/api/replies/${event.id}/aside`)).body
      .mails;

  it('changes nothing but from whoever answers, in every mixture', async () => {
    const fell: string[] = [];
    for (const isChecked of [false, true]) {
      const mixtures = [GUEST, DESK, THIEF, LEILA, null].flatMap((from) =>
        [GUEST, LEILA, THIEF].flatMap((attendee) =>
          ['', DESK, THIEF].flatMap((sentBy) =>
            (Object.keys(WORDS) as Words[]).flatMap((said) =>
              [INES, LEILA].map((to) => ({ from, attendee, sentBy, said, to })),
            ),
          ),
        ),
      );
      const forged = mixtures.filter(
        ({ from, attendee, said, to }) =>
          !(from === attendee && (!isChecked || said === 'true') && to === INES),
      );
      fell.push(
        ...(await fallenOf(forged, event.uid, true, async ({ from, said, to, ...rest }) => {
          const mail = await letter(from, said, reply({ ...rest, as: 'DECLINED' }), GUEST);
          return (await receiveMail(platformOf(isChecked), mail, to)).state;
        })),
      );
    }
    expect(fell).toEqual([]);
    await server.sql(`update incoming_mail set state = 'settled' where event_id = $1`, [event.id]);
  }, 240_000);

  it('counts from whoever answers, and says why', async () => {
    expect(await receiveMail(platformOf(true), await letter(GUEST, 'true', reply()), INES)).toEqual(
      { state: 'counted', reason: '' },
    );
    expect(await answers()).toMatchObject({ [GUEST]: 'accepted' });
    const ines = await server.as('ines.aldabe');
    const { body } = await ines.get<{ letters: { why: string }[] }>(
      `/api/events/${event.id}/letters`,
    );
    expect(body.letters.at(0)!.why).toContain(`found by DMARC`);
    // Nobody but its organizer is told from where answers came.
    const leila = await server.as('leila.haddad');
    expect((await leila.get(`/api/events/${event.id}/letters`)).body).toEqual({ letters: [] });
  });

  it('counts from a desk that an answer of theirs named, and not before', async () => {
    const byDesk = () => letter(DESK, 'silent', reply({ sentBy: DESK, as: 'TENTATIVE' }));
    expect((await receiveMail(platformOf(false), await byDesk(), INES)).state).toBe('aside');
    await receiveMail(
      platformOf(false),
      await letter(GUEST, 'silent', reply({ sentBy: DESK })),
      INES,
    );
    expect((await receiveMail(platformOf(false), await byDesk(), INES)).state).toBe('counted');
    expect(await answers()).toMatchObject({ [GUEST]: 'tentative' });
  });

  it('is counted twice by neither road, whichever it takes first', async () => {
    const both = await letter(GUEST, 'silent', reply({ as: 'DECLINED', lines: ['COMMENT:Twice'] }));
    expect((await receiveMail(platformOf(false), both, INES)).state).toBe('counted');
    expect((await receiveMail(platformOf(false), both, INES)).state).toBe('counted');
    const rows = await server.sql('select state from incoming_mail where message_id = $1', [
      both.messageId,
    ]);
    expect(rows).toEqual([{ state: 'counted' }]);
  });

  it('is counted by one click for all of a sender, what is outdated left where it is', async () => {
    const ines = await server.as('ines.aldabe');
    const secretary = 'secretary@drones.example';
    for (const [second, as] of ['DECLINED', 'ACCEPTED'].entries()) {
      const platform = platformOf(false);
      const clock = { ...platform.clock, now: () => platform.clock.now() + 1000 * second };
      const mail = await letter(secretary, 'silent', reply({ as }));
      await receiveMail({ ...platform, clock }, mail, INES);
    }
    const ofTheirs = (list: AsideList['mails']) => list.filter((one) => one.sender === secretary);
    const mails = ofTheirs(await asideOf());
    expect(mails).toMatchObject([{ hasMore: true }, { hasMore: true }]);
    const counted = await ines.post<AsideList>(`/api/incoming/${mails[0]!.id}/count`, {
      allOfSender: true,
    });
    expect(counted.status).toBe(200);
    expect(ofTheirs(counted.body.mails)).toEqual([]);
    expect(await answers()).toMatchObject({ [GUEST]: 'accepted' });
  });

  it('that sends somebody instead: they are asked by a click, or at once where those invited may ask', async () => {
    const ines = await server.as('ines.aldabe');
    const kim = 'kim@drones.example';
    const sends = (who: string) =>
      letter(GUEST, 'silent', [
        ...reply({ as: `DELEGATED;DELEGATED-TO="mailto:${who}"` }).slice(0, -2),
        `ATTENDEE;PARTSTAT=NEEDS-ACTION;DELEGATED-FROM="mailto:${GUEST}":mailto:${who}`,
        'END:VEVENT',
        'END:VCALENDAR',
      ]);
    expect(await receiveMail(platformOf(false), await sends(kim), INES)).toMatchObject({
      state: 'aside',
      reason: `They do not come and send ${kim} in their place, who is not asked yet.`,
    });
    expect(await answers()).toMatchObject({ [GUEST]: 'declined' });
    const mail = (await asideOf()).find((one) => one.sends === kim)!;
    expect(
      (await (await server.as('leila.haddad')).post(`/api/incoming/${mail.id}/count`, {})).status,
    ).toBe(404);
    expect((await ines.post(`/api/incoming/${mail.id}/count`, {})).status).toBe(200);
    expect(await answers()).toMatchObject({ [kim]: 'needs-action' });
    const letters = await server.sql<{ body: string }>(
      'select body_text as body from mail where event_id = $1 and recipient_email = $2',
      [event.id, kim],
    );
    expect(letters[0]!.body).toContain('asks you to come in their place');
    const detail = (await ines.get<EventDetail>(`/api/events/${event.id}`)).body;
    await ines.patch(`/api/events/${event.id}`, {
      version: detail.version,
      rights: { ...detail.rights, invite: true },
    });
    const jo = 'jo@drones.example';
    expect((await receiveMail(platformOf(false), await sends(jo), INES)).state).toBe('counted');
    expect(await answers()).toMatchObject({ [jo]: 'needs-action' });
  });
});
