import { eventsRoutes } from '../../contract/events.ts';
import type { ChangedEvent } from '../../contract/eventDetail.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { implement, MadeAgain, makesAgain } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { changePersonal } from '../personal/index.ts';
import { actingFor } from '../session/index.ts';
import { cancelEvent } from './commands/cancel.ts';
import type { Done } from './commands/carryOut.ts';
import { changeEvent } from './commands/change.ts';
import { holdTogether } from './commands/holdTogether.ts';
import { inviteAlso } from './commands/inviteAlso.ts';
import { makeEvent } from './commands/make.ts';
import { nudge } from './commands/nudge.ts';
import { declineProposal } from './commands/propose.ts';
import { resend } from './commands/resend.ts';
import { restoreEvent } from './commands/restore.ts';
import { sendDraft } from './commands/send.ts';
import { undoChange } from './commands/undo.ts';
import { DETAIL, detailAgain } from './read/again.ts';
import { detailFor, readDetail, visibleMeeting } from './read/visible.ts';

/** Notes about what was decided on the way stand before those of the event itself. */
const withNotes = <Detail extends { clockNotes: string[] }>(
  detail: Detail,
  notes: readonly string[],
): Detail => ({ ...detail, clockNotes: [...new Set([...notes, ...detail.clockNotes])] });

export const eventsApi = implement(eventsRoutes, (platform) => {
  const { pool, clock } = platform;

  /** What a command left, with notes about it before those of the event itself. */
  const answer = async (
    tx: Transaction,
    actor: PersonActor,
    { meeting, occurrence, notes, undo }: Done,
  ): Promise<MadeAgain<ChangedEvent>> => {
    const asked = { at: occurrence ?? undefined, now: clock.now() };
    const detail = await detailFor(tx, actor, meeting, asked);
    const more = undo ? { undo } : {};
    const again = { ...detailAgain(meeting.id, occurrence), notes, more };
    return new MadeAgain(withNotes({ ...detail, ...more }, notes), again);
  };

  makesAgain(DETAIL, async (tx, actor, { id, at, notes, more, whom }) => {
    const whose = await actingFor(tx, actor, whom as number | undefined);
    const asked = { at: (at as string | null) ?? undefined, now: clock.now() };
    const detail = await readDetail(tx, whose, id as string, asked);
    return withNotes({ ...detail, ...(more as object) }, (notes as string[] | undefined) ?? []);
  });

  return {
    'POST /api/events': async (tx, { actor, body }) => {
      const { made, again } = await makeEvent(tx, platform, actor, body);
      return new MadeAgain(made, again);
    },
    'GET /api/events/:id': ({ actor, params, query, now }) =>
      readDetail(pool, actor, params.id, { at: query.occurrence, now }),
    'PATCH /api/events/:id': async (tx, { actor, params, body }) =>
      answer(tx, actor, await changeEvent(tx, platform, actor, params.id, body)),
    'PUT /api/events/:id/mine': async (tx, { actor, params: { id }, body }) => {
      const meeting = await visibleMeeting(tx, actor, id);
      await changePersonal(tx, actor, id, body);
      announce(tx, [subjectOf('calendar', actor.me.id)]);
      return answer(tx, actor, { id, meeting, occurrence: null, notes: [], undo: null });
    },
    'POST /api/events/:id/cancel': async (tx, { actor, params: { id }, body }) => {
      const { takeBack, tell } = body;
      const others = takeBack.map((one) => one.id);
      const held = others.length > 0 ? await holdTogether(tx, [id, ...others]) : undefined;
      const done = await cancelEvent(tx, platform, actor, id, body, held);
      for (const { id: other, version } of takeBack) {
        const undoing = { version: null, change: version, tell };
        await undoChange(tx, platform, actor, other, undoing, held);
      }
      return answer(tx, actor, done);
    },
    'POST /api/events/:id/send': async (tx, { actor, params, body }) =>
      answer(tx, actor, await sendDraft(tx, platform, actor, params.id, body)),
    'POST /api/events/:id/restore': async (tx, { actor, params, body }) =>
      answer(tx, actor, await restoreEvent(tx, platform, actor, params.id, body)),
    'POST /api/events/:id/undo': async (tx, { actor, params, body }) =>
      answer(tx, actor, await undoChange(tx, platform, actor, params.id, body)),
    'POST /api/events/:id/nudge': async (tx, { actor, params, body }) =>
      answer(tx, actor, await nudge(tx, platform, actor, params.id, body)),
    'POST /api/events/:id/resend': async (tx, { actor, params, body }) =>
      answer(tx, actor, await resend(tx, platform, actor, params.id, body)),
    'POST /api/events/:id/invite': async (tx, { actor, params, body }) =>
      answer(tx, actor, await inviteAlso(tx, platform, actor, params.id, body)),
    'POST /api/events/:id/proposals/decline': async (tx, { actor, params, body }) =>
      answer(tx, actor, await declineProposal(tx, platform, actor, params.id, body)),
  };
});
