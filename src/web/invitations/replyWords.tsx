import type { Reply } from '../../contract/eventDetail.ts';

export const REPLY_WORDS: Record<Reply, string> = {
  accepted: 'accepted',
  tentative: 'tentative',
  declined: 'declined',
  'needs-action': 'no answer yet',
};

/** The answers there are, as their buttons say them. */
export const ANSWERS: [Exclude<Reply, 'needs-action'>, string][] = [
  ['accepted', 'Accept'],
  ['tentative', 'Tentative'],
  ['declined', 'Decline'],
];

/** Shapes first: full, half, crossed and empty, readable without any colour. */
const SHAPES: Record<Reply, string> = {
  accepted: 'M6 1a5 5 0 1 0 0 10A5 5 0 0 0 6 1z',
  tentative: 'M6 1a5 5 0 1 0 0 10z',
  declined: 'M2 2l8 8M10 2l-8 8',
  'needs-action': '',
};

export function ReplyMark({ reply }: { reply: Reply }) {
  return (
    <svg
      width="12"
      height="12"
      viewBox="0 0 12 12"
      aria-hidden="true"
      className="inline-block shrink-0"
    >
      <circle
        cx="6"
        cy="6"
        r="5"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.3"
        strokeDasharray={reply === 'needs-action' ? '2 2' : undefined}
        opacity={reply === 'declined' ? 0 : 1}
      />
      <path
        d={SHAPES[reply]}
        fill={reply === 'declined' ? 'none' : 'currentColor'}
        stroke="currentColor"
        strokeWidth={reply === 'declined' ? 1.8 : 0}
      />
    </svg>
  );
}

/** That a letter did not reach somebody, with what their mail server says. */
export const Undelivered = ({ reason }: { reason: string }) => (
  <span className="block text-xs font-semibold text-alpenglow">
    The letter did not arrive: {reason}
  </span>
);
