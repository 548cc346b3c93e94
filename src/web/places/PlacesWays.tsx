import { useNavigate } from 'react-router';
import { OneOf } from '../design/Toggles.tsx';

const WAYS = [
  { value: 'now', words: 'Now' },
  { value: 'board', words: 'Board' },
] as const;

/** The ways to look at places. */
export function PlacesWays({ at }: { at: (typeof WAYS)[number]['value'] }) {
  const navigate = useNavigate();
  return (
    <OneOf
      label="Ways to look at places"
      look="ways"
      value={at}
      onChange={(way) => void navigate(way === 'now' ? '/places' : '/places/board')}
      options={WAYS}
    />
  );
}
