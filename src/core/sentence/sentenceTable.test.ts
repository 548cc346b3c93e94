import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readSentence, type Chip, type Reader, type SentenceNames } from './sentence.ts';
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
    { id: 1, name: 'Skerry House', city: 'Bergen', zone: 'Europe/Oslo' },
    { id: 2, name: 'Bluff Station', city: 'Halifax', zone: 'America/Halifax' },
  ],
  features: ['video', 'screen', 'whiteboard'],
};

/** A Tuesday. */
const reader: Reader = { today: '2026-11-24', minute: 10 * 60, order: 'day-first' };

const clock = (minute: number) =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

/** `11-26`; with the year where it is another one. */
const date = (day: string) => (day.startsWith('2026') ? day.slice(5) : day);

/**
 * A chip in a few letters: `"Kelp review"`, `Ines`, `~Tui` (optional), `-Tui` (left out), `11-26`,
 * `16:00|04:00` (or the other one), `45m`, `?word`.
 */
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
      return `${date(chip.date)}${chip.other ? `|${date(chip.other)}` : ''}`;
    case 'days':
      return `${date(chip.from)}+${chip.days}`;
    case 'time':
      return `${clock(chip.minute)}${chip.other === null ? '' : `|${clock(chip.other)}`}${chip.zone ? `/${chip.zone}` : ''}`;
    case 'between':
      return `${clock(chip.from)}..${clock(chip.to)}`;
    case 'length':
      return `${chip.minutes}m`;
    case 'weekly':
      return `every ${chip.everyWeeks}${chip.count ? ` x${chip.count}` : ''}`;
    case 'repeats':
      return `${chip.rule}${chip.count ? ` x${chip.count}` : ''}`;
    case 'except':
      return `-${chip.name.split(' ')[0]}`;
    case 'unread':
      return chip.words
        .split(' ')
        .map((word) => `?${word}`)
        .join(' ');
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
with Hal optional => ~Hal
this is a call with Mika => "This is a call" Mika
new meeting with Grace about tides => "New meeting" Grace ?tides
meet Ines tomorrow => "Meet" Ines 11-25
call Wanjiru tomorrow at 9 => "Call" Wanjiru 11-25 09:00
talk to Hal on Friday => "Talk to" Hal 11-27
ask Runa about the winch Friday => "Ask" Runa ?winch 11-27
with Runa about the winch Friday => Runa "Winch" 11-27
lunch with Bao tomorrow noon => "Lunch" Bao 11-25 12:00
coffee with Bao Nguyen Thursday 9:30 => "Coffee" Bao 11-26 09:30
budget with the sea ice team Friday => "Budget" [Sea Ice] 11-27
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
review with Ines in a room in Halifax => "Review" Ines @a room in Halifax
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
winch with Hal every second Thursday => "Winch" Hal every 2 11-26
winch with Hal every two weeks Monday => "Winch" Hal every 2 11-30
winch with Hal every 3 weeks => "Winch" Hal every 3
winch with Hal fortnightly 6 times => "Winch" Hal every 2 x6
winch with Hal weekly six times => "Winch" Hal every 1 x6
winch with Hal weekly for 8 weeks => "Winch" Hal every 1 x8
winch with Hal weekly x5 at 9 => "Winch" Hal every 1 x5 09:00
winch with Hal daily => "Winch" Hal FREQ=DAILY
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
kelp forests except Ines tomorrow => [Kelp Forests] -Ines 11-25
review with everyone in kelp forests but not Tomas => "Review" [Kelp Forests] -Tomas
everyone in sea ice but not Mika Friday => [Sea Ice] -Mika 11-27
review with kelp forests without Tomas => "Review" [Kelp Forests] -Tomas
review with sea ice, kelp forests except Ines and Mika Thu => "Review" [Sea Ice] [Kelp Forests] -Ines -Mika 11-26
winch with all of sea ice minus Mika => "Winch" [Sea Ice] -Mika
kelp forests except Tomas on the 30th at 4 soonish => [Kelp Forests] -Tomas 11-30 16:00|04:00 ?soonish
winch at 9 sites with Hal => "Winch at 9 sites" Hal
review without slides with Hal => "Review without slides" Hal
review maybe Tomas Friday => "Review" ~Tomas 11-27
review with Ines, perhaps Tomas => "Review" Ines ~Tomas
review with Ines, Tomas (optional) => "Review" Ines ~Tomas
winch with Hal 18 Dec 12-14 => "Winch" Hal 12-18 12:00 120m
winch with Hal 1.12 10:00 => "Winch" Hal 12-01 10:00
winch with Hal 1.12. 10:00 => "Winch" Hal 12-01 10:00
winch with Hal Dec 10 => "Winch" Hal 12-10
winch with Hal Dec 10 10:00 => "Winch" Hal 12-10 10:00
winch with Hal 31 Feb => "Winch" Hal ?31 ?Feb
winch with Hal 2026-13-01 => "Winch" Hal ?2026-13-01
winch with Hal 20 Nov => "Winch" Hal 2027-11-20
winch with Hal 12/10 => "Winch" Hal 2027-10-12|12-10
winch with Hal Wed 24 Nov => "Winch" Hal 11-24|11-25
winch with Hal next Friday => "Winch" Hal 12-04|11-27
winch with Hal 3/4 hour => "Winch" Hal 45m
winch with Hal 1 1/2 h => "Winch" Hal 90m
winch with Hal for 1½ hours => "Winch" Hal 90m
winch with Hal for 1 hour 15 min => "Winch" Hal 75m
winch with Hal for three quarters of an hour => "Winch" Hal 45m
winch with Hal 14h30 => "Winch" Hal 14:30
winch with Hal 15h => "Winch" Hal 15:00
winch with Hal 2h => "Winch" Hal 120m
winch with Hal 9am Hobart time => "Winch" Hal 09:00/Australia/Hobart
winch with Hal Hobart time 9am => "Winch" Hal 09:00/Australia/Hobart
winch with Hal UTC 10:00 Thursday => "Winch" Hal 10:00/UTC 11-26
winch with Hal at Hobart time 9am => "Winch" Hal 09:00/Australia/Hobart
winch with Hal 8:30 Lisbon time => "Winch" Hal 08:30|20:30/Europe/Lisbon
winch with Hal 10:00 UTC Thursday => "Winch" Hal 10:00/UTC 11-26
winch with Hal Thursday Halifax time 11-12 => "Winch" Hal 11-26 11:00/America/Halifax 60m
winch with Hal on the 30th at 4 => "Winch" Hal 11-30 16:00|04:00
winch with Hal the 3rd => "Winch" Hal 12-03
winch with Hal on the 31st => "Winch" Hal 12-31
the 3rd draft with Hal => "3rd draft" Hal
winch with Hal from 10 til 11:30 => "Winch" Hal 10:00 90m
winch with Hal 9 to 11 => "Winch" Hal 09:00 120m
winch with Hal 11 to 1 => "Winch" Hal 11:00 120m
winch with Hal 2-3 => "Winch" Hal 14:00|02:00 60m
winch with Hal 9-17 Friday => "Winch" Hal 09:00 480m 11-27
read chapters 9 to 11 with Hal => "Read chapters 9 to 11" Hal
mon-wed winch with Hal => 11-30+3 "Winch" Hal
winch with Hal Thursday to Friday => "Winch" Hal 11-26+2
winch with Hal 3-5 December => "Winch" Hal 12-03+2
winch with Hal fri 9 => "Winch" Hal 11-27 09:00
winch with Hal fri 4 => "Winch" Hal 11-27 16:00|04:00
winch with Hal half past two => "Winch" Hal 14:30|02:30
winch with Hal at half past nine => "Winch" Hal 09:30
winch with Hal quarter to ten => "Winch" Hal 09:45
winch with Hal ten past four => "Winch" Hal 16:10|04:10
winch with Hal at nine => "Winch" Hal 09:00
winch with Hal at two thirty => "Winch" Hal 14:30|02:30
winch with Hal 9ish => "Winch" Hal 09:00
winch with Hal around 3 => "Winch" Hal 15:00|03:00
winch with Hal 0900 => "Winch" Hal 09:00
winch with Hal at 4 => "Winch" Hal 16:00|04:00
winch with Hal at 4pm => "Winch" Hal 16:00
winch with Hal 04:00 => "Winch" Hal 04:00
winch with Hal in 2 hours => "Winch" Hal 11-24 12:00
winch with Hal now => "Winch" Hal 11-24 10:00
winch with Hal week 49 => "Winch" Hal 11-30+5
winch with Hal end of the month => "Winch" Hal 11-26+3
winch with Hal end of the week => "Winch" Hal 11-26+2
winch with Hal early next week => "Winch" Hal 11-30+2
winch with Hal next month => "Winch" Hal 12-01+23
winch with Hal in January => "Winch" Hal 2027-01-01+21
winch with Hal after lunch tomorrow => "Winch" Hal 13:00..17:00 11-25
winch with Hal EOD Friday => "Winch" Hal 15:00..18:00 11-27
winch with Hal first thing tomorrow => "Winch" Hal 08:00..10:00 11-25
winch with Hal after 3 => "Winch" Hal 15:00..24:00
winch with Hal every weekday at 9 => "Winch" Hal FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR 09:00
winch with Hal every other monday => "Winch" Hal every 2 11-30
winch with Hal Tuesdays at 10 => "Winch" Hal every 1 11-24 10:00
winch with Hal monthly => "Winch" Hal FREQ=MONTHLY
winch with Hal every Monday and Thursday => "Winch" Hal every 1 11-30 ?Thursday
winch with Hal Thursday or Friday => "Winch" Hal 11-26 ?Friday
winch with Hal 30m 45m => "Winch" Hal 30m ?45m
winch in a room with video for 8 with Hal => "Winch" @a room at each site with video for 8 Hal
winch with Hal, room for 6 => "Winch" Hal @a room at each site for 6
winch with Hal tomorrow room for 6 in Bergen => "Winch" Hal 11-25 @a room in Bergen for 6
winch with Hal and meeting room with video => "Winch" Hal @a room at each site with video
winch with Hal, rooms for 6 => "Winch" Hal @a room at each site for 6
room for growth with Hal => "Room for growth" Hal
make the winch room for 6 tidy with Hal => "Make the winch room for 6 tidy" Hal
winch with Hal in a room for 12 in Bergen => "Winch" Hal @a room in Bergen for 12
winch with Hal in any room with a screen and whiteboard => "Winch" Hal @a room at each site with screen and whiteboard
winch with Hal torsdag => "Winch" Hal 11-26
winch with Hal søndag kl 10 => "Winch" Hal 11-29 10:00
winch with Hal am Mittwoch um 10 => "Winch" Hal ?am 11-25 10:00
winch with Hal vendredi 14h30 => "Winch" Hal 11-27 14:30
winch with Hal środa 9:30 => "Winch" Hal 11-25 09:30
winch with Hal segunda-feira 15h => "Winch" Hal 11-30 15:00
winch with Hal i morgen => "Winch" Hal 11-25
`
  .trim()
  .split('\n')
  .map((line) => {
    const [text, meant] = line.split(' =>');
    return [text!, meant!.trim()] as const;
  });

describe('what is typed into the field of the header', () => {
  it('is held by a table of 200 sentences, each once', () => {
    expect(TABLE.length).toBeGreaterThanOrEqual(200);
    expect(new Set(TABLE.map(([text]) => text)).size).toBe(TABLE.length);
  });

  it.each(TABLE)('“%s” means %s', (text, meant) => {
    // In the order of the sentence; what it is called stands wherever its first word does.
    const chips = readSentence(text, names, reader);
    const said = chips.flatMap((chip) =>
      chip.kind === 'unread' ? brief(chip).split(' ') : brief(chip),
    );
    expect([...said].sort()).toEqual([...splitBrief(meant)].sort());
  });
});

/** Splits at spaces that stand in no quotes and no brackets. */
const splitBrief = (line: string): string[] =>
  line.match(
    /"[^"]*"|~?\[[^\]]*\]|@(?:a room (?:at each site|in (?:Skerry House|\w+))(?: with \w+(?: and \w+)*)?(?: for \d+)?|Sonar kit|Wet lab A|Call booth|\w+)|every \d(?: x\d+)?|\S+/g,
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
        const chips = readSentence(text, names, reader);
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
