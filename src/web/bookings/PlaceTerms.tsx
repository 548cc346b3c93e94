import type { PlaceRules } from '../../core/booking/rules.ts';
import { priceOf, priceWords } from '../../core/booking/ruleWords.ts';
import type { Interval } from '../../core/time/interval.ts';
import { may, useMe } from '../client/index.ts';

interface Bound {
  id: number;
  name: string;
  rules: PlaceRules;
}

/** Whether a booking of a place is held until a steward agrees. */
export function useNeedsAgreement(): (place: Bound) => boolean {
  const me = useMe();
  return ({ id, rules }) => rules.approval === true && !may(me, 'exceed', id);
}

/** What booking places means besides having them: what it costs, and who has to agree; nothing where neither. */
export function PlaceTerms({ places, span }: { places: readonly Bound[]; span: Interval | null }) {
  const needs = useNeedsAgreement();
  const lines = places.flatMap((one) => {
    const price = span && priceOf(one.rules, span);
    return [
      price && `${one.name} costs ${priceWords(price)} for that time.`,
      needs(one) && `${one.name} is asked for: it is held for you until a steward agrees.`,
    ].filter((words) => typeof words === 'string');
  });
  if (lines.length === 0) return null;
  return (
    <ul role="status" aria-label="What it costs, and who has to agree">
      {lines.map((words) => (
        <li key={words}>{words}</li>
      ))}
    </ul>
  );
}

/** The word on the button that books places: those a steward has to agree to are asked for. */
export const bookVerb = (places: readonly Bound[], needs: (place: Bound) => boolean): string => {
  const what = places.length > 1 ? `${places.length} places` : (places[0]?.name ?? 'it');
  return places.some(needs) ? `Ask for ${what}` : `Book ${what}`;
};
