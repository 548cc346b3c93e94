import { WEEKDAYS, weekdayName, type Weekday } from '../../../core/recurrence/rule.ts';
import { ruleSentence } from '../../../core/recurrence/sentence.ts';
import { weekdayOf } from '../../../core/time/wall.ts';
import { Select } from '../../design/Select.tsx';
import { Tick } from '../../design/ticks.tsx';
import { AnyOf } from '../../design/Toggles.tsx';
import { DAY_LETTERS, monthlyChoices, partOf, type RulePart } from './repeating.ts';

/** On which days a rule falls: of the week, the month or the year. */
export function Days({ rule, date, setRule }: RulePart) {
  if (rule.frequency === 'WEEKLY') return <OnWeekdays rule={rule} date={date} setRule={setRule} />;
  if (rule.frequency === 'DAILY') {
    return (
      <Tick
        label="only from Monday to Friday"
        on={rule.byDay.length > 0}
        onChange={(on) =>
          setRule({
            ...rule,
            byDay: on ? WEEKDAYS.slice(0, 5).map((weekday) => ({ weekday, nth: null })) : [],
          })
        }
      />
    );
  }
  const choices = monthlyChoices(rule.frequency, date);
  const present = choices.findIndex(
    ([, part]) => JSON.stringify(partOf(rule)) === JSON.stringify(part),
  );
  return (
    <Select
      question="On which day"
      className="w-auto justify-self-start"
      value={present}
      onChange={(k) => {
        const choice = choices[k];
        if (choice) setRule({ ...rule, ...choice[1] });
      }}
      options={[
        ...(present < 0
          ? [{ value: -1, words: ruleSentence({ ...rule, count: null, until: null }, date) }]
          : []),
        ...choices.map(([words], k) => ({ value: k, words })),
      ]}
    />
  );
}

function OnWeekdays({ rule, date, setRule }: RulePart) {
  const choose = (chosen: readonly Weekday[]) => {
    // One at least: without any, the day on which it begins.
    const days = chosen.length ? chosen : [weekdayName(weekdayOf(date))];
    setRule({
      ...rule,
      byDay: WEEKDAYS.filter((one) => days.includes(one)).map((one) => ({
        weekday: one,
        nth: null,
      })),
    });
  };
  return (
    <div className="flex flex-wrap items-center gap-1">
      <span className="mr-1">on</span>
      <AnyOf
        label="On these days"
        look="days"
        value={rule.byDay.map((day) => day.weekday)}
        onChange={choose}
        options={WEEKDAYS.map((weekday) => {
          const [words, name] = DAY_LETTERS[weekday];
          return { value: weekday, words, name };
        })}
      />
    </div>
  );
}
