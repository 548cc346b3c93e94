import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readSentence, type Chip, type SentenceNames } from './sentence.ts';
import { often } from '../../../tests/support/effort.ts';

/*
 * What people type into the field of the header, and what each of it must mean. The people of this
 * table are unlike those of the code's own examples, and some are called like common words.
 */

const people = [
  'Ines Aldabe',
  'Tomas Okafor',
  'Mika Sandoval',
  'Jonas Vågen',
  'Grace Paul',
  'Wanjiru Keele',
  'Devika Menon',
  'Ravi Menon',
  'Hal Teague',
  'May Lindqvist',
  'Runa Fossheim',
  'Bao Nguyen',
].map((name, k) => ({ id: k + 1, name }));

const names: SentenceNames = {
  people,
  teams: [
    { id: 1, name: 'Kelp Forests', memberIds: [1, 2] },
    { id: 2, name: 'Sea Ice', memberIds: [3] },
    { id: 3, name: 'Sites and Office', memberIds: [4, 5] },
  ],
  resources: [
    { id: 101, name: 'Gannet', kind: 'room' },
    { id: 102, name: 'Wet lab A', kind: 'lab' },
    { id: 103, name: 'Sonar kit', kind: 'equipment' },
    { id: 104, name: 'Call booth', kind: 'room' },
  ],
  sites: [
    { id: 1, name: 'Skerry House', city: 'Bergen' },
    { id: 2, name: 'Bluff Station', city: 'Halifax' },
  ],
};

/** A Tuesday. */
const TODAY = '2026-11-24';

const clock = (minute: number) =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

/** A chip in a few letters: `"Kelp review"`, `Ines`, `~Tui` (optional), `26 Nov`, `14:00`, `45m`, `?word`. */
function brief(chip: Chip): string {
  switch (chip.kind) {
    case 'title':
      return `"${chip.text}"`;
    case 'person':
      return `${chip.optional ? '~' : ''}${chip.name.split(' ')[0]}`;
    case 'team':
      return `${chip.optional ? '~' : ''}[${chip.name}]`;
    case 'address':
      return `${chip.optional ? '~' : ''}${chip.email}`;
    case 'resource':
    case 'room':
      return `@${chip.name}`;
    case 'day':
      return chip.date.slice(5);
    case 'days':
      return `${chip.from.slice(5)}+${chip.days}`;
    case 'time':
      return clock(chip.minute);
    case 'between':
      return `${clock(chip.from)}..${clock(chip.to)}`;
    case 'length':
      return `${chip.minutes}m`;
    case 'weekly':
      return `every ${chip.everyWeeks}${chip.count ? ` x${chip.count}` : ''}`;
    case 'unread':
      return `?${chip.words}`;
  }
}

const TABLE = `
kelp review with Ines and Tomas Thu 14:00 45m in Gannet => "Kelp review" Ines Tomas 11-26 14:00 45m @Gannet
kelp review with Ines Thu 14:00 45m => "Kelp review" Ines 11-26 14:00 45m
review with Ines and => "Review" Ines
call with Ines and Tomas => "Call" Ines Tomas
Ines and Tomas => Ines Tomas
Ines and => Ines
with Ines and Mika => Ines Mika
with ines, tomas, mika => Ines Tomas Mika
with Ines & Tomas & Hal => Ines Tomas Hal
with Ines, Tomas and maybe Hal => Ines Tomas ~Hal
with Hal optional => Hal
this is a call with Mika => "This is a call" Mika
new meeting with Grace about tides => "New meeting" Grace ?tides
meet Ines tomorrow => "Meet" Ines 11-25
call Wanjiru tomorrow at 9 => "Call" Wanjiru 11-25 09:00
talk to Hal on Friday => "Talk to" Hal 11-27
ask Runa about the winch Friday => "Ask" Runa ?winch 11-27
with Runa about the winch Friday => Runa "Winch" 11-27
lunch with Bao tomorrow noon => "Lunch" Bao 11-25 12:00
coffee with Bao Nguyen Thursday 9:30 => "Coffee" Bao 11-26 09:30
budget with the sea ice team Friday => "Budget" [Sea Ice] ?team 11-27
budget with Sea Ice Friday 10am => "Budget" [Sea Ice] 11-27 10:00
sea ice review tomorrow => "Sea ice review" 11-25
Sea Ice tomorrow 10:00 => [Sea Ice] 11-25 10:00
kelp forests tomorrow => [Kelp Forests] 11-25
Gannet tomorrow 10:00 1h => @Gannet 11-25 10:00 60m
sonar kit tomorrow => @Sonar kit 11-25
sonar kit check tomorrow => "Sonar kit check" 11-25
calibration with sonar kit and Ines => "Calibration" @Sonar kit Ines
standup with sites and office Monday 9am => "Standup" [Sites and Office] 11-30 09:00
standup with sites and Ines => "Standup" [Sites and Office] Ines
sites review with Hal => "Sites review" Hal
tides with Ravi Menon => "Tides" Ravi
tides with Menon => "Tides" Devika
tides with Mkia and Tomsa => "Tides" Mika Tomas
tides with wanjru => "Tides" Wanjiru
tides with jonas vagen => "Tides" Jonas
tides with Zebulon => "Tides" ?Zebulon
tides with Zebulon and Ines => "Tides" ?Zebulon Ines
may report with Ines => "May report" Ines
report with May Friday => "Report" ?May 11-27
report with May Lindqvist Friday => "Report" May 11-27
about the reef => "Reef"
review in Gannet => "Review" @Gannet
review at Gannet Friday => "Review" @Gannet 11-27
review in Bergen with Ines => "Review" @a room in Bergen Ines
review in Skerry House => "Review" @a room in Skerry House
review with Ines in wet lab a => "Review" Ines @Wet lab A
review with Ines in wetlab => "Review" Ines ?wetlab
review with Ines in a room => "Review" Ines @a room at each site
review with Ines in a room in Halifax => "Review" Ines @a room at each site @a room in Halifax
training in knots with Hal => "Training in knots" Hal
interview at call booth Thu => "Interview" @Call booth 11-26
call tomorrow => "Call" 11-25
new call tomorrow 2pm => "New call" 11-25 14:00
about => 
tomorrow => 11-25
tomorrow afternoon => 11-25 12:00..17:00
tomorrow morning with Ines => 11-25 08:00..12:00 Ines
Monday morning with Hal => 11-30 08:00..12:00 Hal
Monday afternoon => 11-30 12:00..17:00
review Friday afternoon with Ines => "Review" 11-27 12:00..17:00 Ines
review this afternoon with Ines => "Review" 11-24 12:00..17:00 Ines
review tonight with Ines => "Review" 11-24 17:00..23:00 Ines
review with Ines tomorrow in the morning => "Review" Ines 11-25 08:00..12:00
review with Ines Thursday evening => "Review" Ines 11-26 17:00..21:00
morning review with Ines => "Morning review" Ines
review with Ines after 15:00 => "Review" Ines 15:00..24:00
review with Ines tomorrow before noon => "Review" Ines 11-25 00:00..12:00
review with Ines between 10 and 12 => "Review" Ines 10:00..12:00
review with Ines between 2 and 4pm tomorrow => "Review" Ines 14:00..16:00 11-25
review 14:00 to 15:30 with Ines => "Review" 14:00 90m Ines
review Thu 14:00-15:30 with Ines => "Review" 11-26 14:00 90m Ines
review with Ines 2pm-3pm tomorrow => "Review" Ines 14:00 60m 11-25
review with Ines 2026-12-03 14:00-15:30 => "Review" Ines 12-03 14:00 90m
review with Ines 2-3pm tomorrow => "Review" Ines 14:00 60m 11-25
review with Ines from 10 to 11:30 => "Review" Ines 10:00 90m
review with Ines from 9 until noon => "Review" Ines 09:00 180m
review with Ines 11am to 1pm => "Review" Ines 11:00 120m
review with Ines 14:00 – 14:45 Friday => "Review" Ines 14:00 45m 11-27
Thu 14:00 kelp review with Ines => 11-26 14:00 "Kelp review" Ines
tomorrow kelp review with Ines => 11-25 "Kelp review" Ines
26 Nov winch with Hal => 11-26 "Winch" Hal
next week winch with Hal => 11-30+5 "Winch" Hal
10:00 winch with Hal tomorrow => 10:00 "Winch" Hal 11-25
45m winch with Hal => 45m "Winch" Hal
weekly winch with Hal Monday 9:00 => every 1 "Winch" Hal 11-30 09:00
weekly with Hal => every 1 Hal
every Tuesday winch with Hal => every 1 11-24 "Winch" Hal
winch with Hal every second Thursday => "Winch" Hal ?every ?second 11-26
winch with Hal every two weeks Monday => "Winch" Hal every 2 11-30
winch with Hal every 3 weeks => "Winch" Hal every 3
winch with Hal fortnightly 6 times => "Winch" Hal every 2 x6
winch with Hal weekly six times => "Winch" Hal every 1 x6
winch with Hal weekly for 8 weeks => "Winch" Hal every 1 x8
winch with Hal weekly x5 at 9 => "Winch" Hal every 1 x5 09:00
winch with Hal daily => "Winch" Hal ?daily
winch with Hal in two weeks => "Winch" Hal 12-08
winch with Hal in 2 weeks => "Winch" Hal 12-08
winch with Hal in a week => "Winch" Hal 12-01
winch with Hal in three days => "Winch" Hal 11-27
winch with Hal the day after tomorrow => "Winch" Hal 11-26
winch with Hal next Monday => "Winch" Hal 11-30
winch with Hal Monday next week => "Winch" Hal 11-30
winch with Hal next week Thursday => "Winch" Hal 12-03
winch with Hal Friday this week => "Winch" Hal 11-27
winch with Hal this week => "Winch" Hal 11-24+4
winch with Hal today => "Winch" Hal 11-24
winch with Hal 3 December => "Winch" Hal 12-03
winch with Hal December 3rd 10:15 => "Winch" Hal 12-03 10:15
winch with Hal Dec 3 => "Winch" Hal 12-03
winch with Hal 1st of December => "Winch" Hal 12-01
winch with Hal 2026-12-03 => "Winch" Hal 12-03
winch with Hal 3.12. at 1045 => "Winch" Hal 12-03 10:45
winch with Hal Wed 25 Nov => "Winch" Hal 11-25
winch with Hal at 9 => "Winch" Hal 09:00
winch with Hal at 9am => "Winch" Hal 09:00
winch with Hal 9.15 => "Winch" Hal 09:15
winch with Hal 9 o'clock => "Winch" Hal 09:00
winch with Hal noon => "Winch" Hal 12:00
winch with Hal for an hour => "Winch" Hal 60m
winch with Hal for half an hour => "Winch" Hal 30m
winch with Hal for an hour and a half => "Winch" Hal 90m
winch with Hal for two and a half hours => "Winch" Hal 150m
winch with Hal for two hours => "Winch" Hal 120m
winch with Hal for 90 minutes => "Winch" Hal 90m
winch with Hal for 20 mins => "Winch" Hal 20m
winch with Hal 1.5h => "Winch" Hal 90m
winch with Hal 1h30 => "Winch" Hal 90m
winch with Hal 2 hrs => "Winch" Hal 120m
winch with Hal for a quarter of an hour => "Winch" Hal 15m
winch with jon.skau@harbour.example Fri => "Winch" jon.skau@harbour.example 11-27
winch with Hal and maybe ann@x.example => "Winch" Hal ~ann@x.example
Hal Teague tomorrow 2pm => Hal 11-25 14:00
Hal Bao tomorrow => Hal Bao 11-25
Hal tomorrow winch => Hal 11-25 "Winch"
winch: with Hal tomorrow => "Winch" Hal 11-25
with Hal tomorrow 10:00: winch => Hal 11-25 10:00 "Winch"
winch w/ Hal => "Winch" Hal
winch with me and Hal => "Winch" Hal
winch with Hal and the rest => "Winch" Hal ?rest
winch with Hal please => "Winch" Hal
time plan with Ines => "Time plan" Ines
last notes with Ines => "Last notes" Ines
hall plan with Ines => "Hall plan" Ines
grace period with Ines => "Grace period" Ines
have a look with Ines at Gannet => "Have a look" Ines @Gannet
1:1 with Runa Monday 11:00 => "1:1" Runa 11-30 11:00
Q1 plan with Runa and Ines => "Q1 plan" Runa Ines
50% off with Runa => "50% off" Runa
project 7 with Runa tomorrow => "Project 7" Runa 11-25
just some words => "Just some words"
`
  .trim()
  .split('\n')
  .map((line) => {
    const [text, meant] = line.split(' =>');
    return [text!, meant!.trim()] as const;
  });

describe('what is typed into the field of the header', () => {
  it('is held by a table of 150 sentences, each once', () => {
    expect(TABLE.length).toBeGreaterThanOrEqual(150);
    expect(new Set(TABLE.map(([text]) => text)).size).toBe(TABLE.length);
  });

  it.each(TABLE)('“%s” means %s', (text, meant) => {
    // In the order of the sentence; what it is called stands wherever its first word does.
    const chips = readSentence(text, names, TODAY);
    const said = chips.map(brief);
    expect([...said].sort()).toEqual([...splitBrief(meant)].sort());
  });
});

/** Splits at spaces that stand in no quotes and no brackets. */
const splitBrief = (line: string): string[] =>
  line.match(
    /"[^"]*"|~?\[[^\]]*\]|@(?:a room (?:at each site|in (?:Skerry House|\w+))|Sonar kit|Wet lab A|Call booth|\w+)|every \d(?: x\d+)?|\S+/g,
  ) ?? [];

describe('sentences put together by chance', () => {
  const person = fc.constantFrom(...people.filter((one) => one.name !== 'May Lindqvist'));
  const day = fc.constantFrom(
    ['tomorrow', '2026-11-25'],
    ['Thursday', '2026-11-26'],
    ['next Monday', '2026-11-30'],
    ['3 December', '2026-12-03'],
    ['in two weeks', '2026-12-08'],
    ['Friday this week', '2026-11-27'],
  );
  const time = fc.constantFrom(
    ['14:00', 840],
    ['2pm', 840],
    ['at 9', 540],
    ['noon', 720],
    ['9.30', 570],
  );
  const length = fc.constantFrom(
    ['45m', 45],
    ['for an hour', 60],
    ['for two hours', 120],
    ['1h30', 90],
  );
  const place = fc.constantFrom(
    ['in Gannet', 'Gannet'],
    ['at Call booth', 'Call booth'],
    ['in Wet lab A', 'Wet lab A'],
    ['in Halifax', 'a room in Halifax'],
  );
  const title = fc.constantFrom(
    'kelp review',
    'the winch',
    'tide tables',
    'ice log',
    'new plan',
    'call',
  );
  const team = fc.constantFrom(...names.teams);

  it('mean what was meant, in whatever order it is said', () => {
    const parts = fc.record({
      title,
      whom: fc.uniqueArray(person, { minLength: 1, maxLength: 3, selector: (one) => one.id }),
      whole: fc.boolean(),
      team: fc.option(team),
      day: fc.option(day),
      time: fc.option(time),
      length: fc.option(length),
      place: fc.option(place),
      order: fc.shuffledSubarray([0, 1, 2, 3], { minLength: 4 }),
      leads: fc.boolean(),
      joiner: fc.constantFrom(', ', ' and '),
    });
    fc.assert(
      fc.property(parts, (one) => {
        const whom = one.whom.map((who) => (one.whole ? who.name : who.name.split(' ')[0]!));
        const withTeam = one.team ? [...whom, one.team.name] : whom;
        const when = [
          one.day?.[0] ?? '',
          one.time?.[0] ?? '',
          one.length?.[0] ?? '',
          one.place?.[0] ?? '',
        ].map(String);
        const shuffled = one.order.map((k) => when[k]!).filter(Boolean);
        const lead = one.leads && one.day ? String(one.day[0]) : '';
        const rest = lead ? shuffled.filter((part) => part !== lead) : shuffled;
        const text = [lead, one.title, 'with', withTeam.join(one.joiner), ...rest]
          .filter(Boolean)
          .join(' ');
        const chips = readSentence(text, names, TODAY);
        const of = <K extends Chip['kind']>(kind: K) =>
          chips.filter((chip): chip is Extract<Chip, { kind: K }> => chip.kind === kind);
        const wanted = one.title.replace(/^the /, '');
        expect(
          of('title').map((chip) => chip.text.toLowerCase()),
          text,
        ).toEqual([wanted]);
        // Understood, or asked: a name that two have offers the other.
        const meant = of('person');
        expect(meant, text).toHaveLength(one.whom.length);
        one.whom.forEach((who, k) =>
          expect([meant[k]!.id, ...meant[k]!.others.map((other) => other.id)], text).toContain(
            who.id,
          ),
        );
        expect(
          of('team').map((chip) => chip.id),
          text,
        ).toEqual(one.team ? [one.team.id] : []);
        expect(
          of('day').map((chip) => chip.date),
          text,
        ).toEqual(one.day ? [one.day[1]] : []);
        expect(
          of('time').map((chip) => chip.minute),
          text,
        ).toEqual(one.time ? [one.time[1]] : []);
        expect(
          of('length').map((chip) => chip.minutes),
          text,
        ).toEqual(one.length ? [one.length[1]] : []);
        expect(
          [...of('resource'), ...of('room')].map((chip) => chip.name),
          text,
        ).toEqual(one.place ? [one.place[1]] : []);
        expect(of('unread'), text).toEqual([]);
      }),
      { numRuns: often(2_000) },
    );
  }, 60_000);
});
