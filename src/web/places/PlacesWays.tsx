import { useNavigate } from 'react-router';
import { OneOf } from '../design/Toggles.tsx';

const ADDRESSES = {
  now: '/places',
  find: '/places/find',
  board: '/places/board',
  ledger: '/places/ledger',
};
const WAYS = [
  { value: 'now', words: 'Now' },
  { value: 'find', words: 'Find' },
  { value: 'board', words: 'Board' },
  { value: 'ledger', words: 'Ledger' },
] as const;

/** The ways to look at places. */
export function PlacesWays({ at }: { at: (typeof WAYS)[number]['value'] }) {
  const navigate = useNavigate();
  return (
    <OneOf
      label="Ways to look at places"
      look="ways"
      value={at}
      onChange={(way) => void navigate(ADDRESSES[way])}
      options={WAYS}
    />
  );
}
