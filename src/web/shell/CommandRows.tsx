import { Command as List } from 'cmdk';
import type { Command } from '../../core/sentence/command.ts';
import { formatSpan } from '../../core/time/format.ts';
import { dateAt } from '../../core/time/wall.ts';
import { useMe } from '../client/index.ts';
import { moveAddress } from './sayings.ts';
import type { MeantRow } from './useMeant.ts';

/** Which of them is meant; each leads to where it is moved or cancelled, and asks there. */
export function CommandRows({
  command,
  meant,
  onGo,
}: {
  command: Command;
  meant: readonly MeantRow[];
  onGo: (address: string) => void;
}) {
  const me = useMe();
  if (command.verb === 'book') return null;
  const { verb, chips, title } = command;
  if (meant.length === 0)
    return (
      <p className="px-3 py-2 text-ink-2">You organize nothing to come that is called “{title}”.</p>
    );
  const addressOf = ({ item }: MeantRow) => {
    const { eventId, recurrenceId, start, end } = item;
    if (verb === 'move') return moveAddress({ eventId, recurrenceId, start, end }, chips, me.zone);
    const date = dateAt(start, me.zone);
    const on = recurrenceId ? `&on=${encodeURIComponent(recurrenceId)}` : '';
    return `/calendar?date=${date}&event=${eventId}${on}`;
  };
  return meant.map((row) => (
    <List.Item
      key={row.value}
      value={row.value}
      onSelect={() => onGo(addressOf(row))}
      className="flex cursor-pointer justify-between gap-4 rounded-sm px-3 py-1.5 data-[selected=true]:bg-gentian-wash"
    >
      <span className="font-medium">
        {verb === 'move' ? 'Move' : 'Cancel'} {row.item.title}
      </span>
      <span className="text-ink-2">{formatSpan(row.item, me.zone, me.clock)}; it asks first</span>
    </List.Item>
  ));
}
