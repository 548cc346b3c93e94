import { WEEKDAYS, weekdayName, type Weekday } from '../../../core/recurrence/rule.ts';
import { ruleSentence } from '../../../core/recurrence/sentence.ts';
import { weekdayOf } from '../../../core/time/wall.ts';
import { Choice } from '../../design/controls.tsx';
import { DAY_LETTERS, monthlyChoices, partOf, type RulePart } from './repeating.ts';

/** On which days a rule falls: of the week, the month or the year. */
export function Days({ rule, date, setRule }: RulePart) {
  if (rule.frequency === 'WEEKLY') return <OnWeekdays rule={rule} date={date} setRule={setRule} />;
  if (rule.frequency === 'DAILY') {
    return (
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={rule.byDay.length > 0}
          onChange={(event) =>
            setRule({
              ...rule,
              byDay: event.target.checked
                ? WEEKDAYS.slice(0, 5).map((weekday) => ({ weekday, nth: null }))
                : [],
            })
          }
        />
        only from Monday to Friday
      </label>
    );
  }
  const choices = monthlyChoices(rule.frequency, date);
  const present = choices.findIndex(
    ([, part]) => JSON.stringify(partOf(rule)) === JSON.stringify(part),
  );
  return (
    <Choice
      aria-label="On which day"
      className="w-auto justify-self-start"
      value={present}
      onChange={(event) => {
        const choice = choices[Number(event.target.value)];
        if (choice) setRule({ ...rule, ...choice[1] });
      }}
    >
      {present < 0 && (
        <option value={-1}>{ruleSentence({ ...rule, count: null, until: null }, date)}</option>
      )}
      {choices.map(([words], k) => (
        <option key={words} value={k}>
          {words}
        </option>
      ))}
    </Choice>
  );
}

function OnWeekdays({ rule, date, setRule }: RulePart) {
  const chosen = rule.byDay.map((day) => day.weekday);
  const toggle = (weekday: Weekday) => {
    const next = chosen.includes(weekday)
      ? chosen.filter((one) => one !== weekday)
      : [...chosen, weekday];
    const days = next.length ? next : [weekdayName(weekdayOf(date))];
    setRule({
      ...rule,
      byDay: WEEKDAYS.filter((one) => days.includes(one)).map((one) => ({
        weekday: one,
        nth: null,
      })),
    });
  };
  return (
    <div className="flex flex-wrap items-center gap-1" role="group" aria-label="On these days">
      <span className="mr-1">on</span>
      {WEEKDAYS.map((weekday) => {
        const on = chosen.includes(weekday);
        const [letters, name] = DAY_LETTERS[weekday];
        return (
          <button
            key={weekday}
            type="button"
            aria-pressed={on}
            aria-label={name}
            onClick={() => toggle(weekday)}
            className={`min-w-9 rounded-sm border px-1.5 py-1 font-semibold ${on ? 'border-gentian bg-gentian text-on-gentian' : 'border-edge bg-sheet hover:border-ink-2'}`}
          >
            {letters}
          </button>
        );
      })}
    </div>
  );
}
