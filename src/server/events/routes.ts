import Router from '@koa/router';
import type { Context } from 'koa';
import {
  declineProposalRequest,
  inviteRequest,
  nudgeRequest,
  resendRequest,
} from '../../contract/asking.ts';
import {
  cancelEventRequest,
  changeEventRequest,
  createEventRequest,
  eventPath,
  eventQuery,
  myPartRequest,
  restoreEventRequest,
  sendEventRequest,
  undoEventRequest,
  type NewEvent,
} from '../../contract/events.ts';
import { MOST_CHANGED } from '../../contract/ledger.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { act, read, readBody, requireActor, type Answer, makesAgain } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { actingFor, bookingFor } from '../session/index.ts';
import { changePersonal } from '../personal/index.ts';
import type { Platform } from '../platform.ts';
import { cancelEvent } from './commands/cancel.ts';
import type { Done } from './commands/carryOut.ts';
import { inviteAlso } from './commands/inviteAlso.ts';
import { makeRoom } from './commands/makeRoom.ts';
import { nudge } from './commands/nudge.ts';
import { readBookingsOf, writeNote } from '../reservations/index.ts';
import { declineProposal } from './commands/propose.ts';
import { changeEvent } from './commands/change.ts';
import { createEvent, fieldNaming } from './commands/create.ts';
import { holdTogether } from './commands/holdTogether.ts';
import { resend } from './commands/resend.ts';
import { restoreEvent } from './commands/restore.ts';
import { sendDraft } from './commands/send.ts';
import { undoChange } from './commands/undo.ts';
import { DETAIL, detailAgain } from './read/again.ts';
import { detailFor, readDetail, visibleMeeting } from './read/visible.ts';

const eventId = (ctx: Context & { params: unknown }) => read(eventPath, ctx.params).id;

/** Whether somebody who looks after places books one for somebody for whom they do not act. */
const isBookedBySteward = ({ me, principals }: PersonActor, request: NewEvent): boolean =>
  me.role !== 'staff' &&
  request.for !== undefined &&
  !principals.includes(request.for) &&
  request.resources.length > 0 &&
  request.attendees.length === 0 &&
  request.moving.length === 0 &&
  request.draft === null;

/** Notes about what was decided on the way stand before those of the event itself. */
const withNotes = <Detail extends { clockNotes: string[] }>(
  detail: Detail,
  notes: readonly string[],
): Detail => ({ ...detail, clockNotes: [...new Set([...notes, ...detail.clockNotes])] });

/** /api/events: making, changing, cancelling, restoring events, and taking changes back. */
export function eventsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/events' });

  /** What a command left, with notes about it before those of the event itself. */
  const answer = async (tx: Transaction, actor: PersonActor, done: Done): Promise<Answer> => {
    const { meeting, occurrence, notes, undo } = done;
    const now = platform.clock.now();
    const detail = await detailFor(tx, actor, meeting, { at: occurrence ?? undefined, now });
    const more = undo ? { undo } : {};
    return {
      status: 200,
      body: withNotes({ ...detail, ...more }, notes),
      again: { ...detailAgain(meeting.id, occurrence), notes, more },
    };
  };

  makesAgain(DETAIL, async (tx, actor, { id, at, notes, more, whom }) => {
    const whose = await actingFor(tx, actor, whom as number | undefined);
    const asked = { at: (at as string | null) ?? undefined, now: platform.clock.now() };
    const detail = await readDetail(tx, whose, id as string, asked);
    return withNotes({ ...detail, ...(more as object) }, (notes as string[] | undefined) ?? []);
  });

  router.post('/', async (ctx) => {
    const request = readBody(createEventRequest, ctx);
    await act(ctx, platform, async (tx, actor) => {
      const { moving, resources } = request;
      const moves = moving.map((one) => one.eventId);
      const held =
        moves.length > 0
          ? await holdTogether(tx, moves, resources, fieldNaming(resources))
          : undefined;
      const moved = held ? await makeRoom(tx, platform, actor, moving, held) : [];
      const asSteward = isBookedBySteward(actor, request);
      const whose = asSteward
        ? await bookingFor(tx, actor, request.for!)
        : await actingFor(tx, actor, request.for);
      const event = await createEvent(tx, platform, whose, request, held);
      if (request.forStewards) {
        const isMine = whose.kind === 'person' && whose.by === null;
        writeNote(tx, event.id, request.forStewards, isMine ? actor.me.id : null);
      }
      if (asSteward) {
        // What its holder has of their own is theirs; the bookings are given back as any other's are.
        const bookings = await readBookingsOf(tx, event.id, MOST_CHANGED + 1);
        const more = { categoryId: null, reminders: [], bookings };
        return {
          status: 201,
          body: { ...event, ...more },
          again: { ...detailAgain(event.id), more },
        };
      }
      const more = moved.length > 0 ? { moved } : {};
      return {
        status: 201,
        body: { ...event, ...more },
        again: { ...detailAgain(event.id, null, request.for), more },
      };
    });
  });

  router.get('/:id', async (ctx) => {
    const actor = requireActor(ctx);
    const { occurrence: at } = read(eventQuery, { ...ctx.query });
    const now = platform.clock.now();
    ctx.body = await readDetail(platform.pool, actor, eventId(ctx), { at, now });
  });

  router.patch('/:id', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(changeEventRequest, ctx);
    await act(ctx, platform, async (tx, actor) =>
      answer(tx, actor, await changeEvent(tx, platform, actor, id, request)),
    );
  });

  router.put('/:id/mine', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(myPartRequest, ctx);
    await act(ctx, platform, async (tx, actor) => {
      const meeting = await visibleMeeting(tx, actor, id);
      await changePersonal(tx, actor, id, request);
      announce(tx, [subjectOf('calendar', actor.me.id)]);
      return answer(tx, actor, { id, meeting, occurrence: null, notes: [], undo: null });
    });
  });

  router.post('/:id/cancel', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(cancelEventRequest, ctx);
    await act(ctx, platform, async (tx, actor) => {
      const { takeBack, tell } = request;
      const others = takeBack.map((one) => one.id);
      const held = others.length > 0 ? await holdTogether(tx, [id, ...others]) : undefined;
      const done = await cancelEvent(tx, platform, actor, id, request, held);
      for (const { id: other, version } of takeBack) {
        const undoing = { version: null, change: version, tell };
        await undoChange(tx, platform, actor, other, undoing, held);
      }
      return answer(tx, actor, done);
    });
  });

  router.post('/:id/send', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(sendEventRequest, ctx);
    await act(ctx, platform, async (tx, actor) =>
      answer(tx, actor, await sendDraft(tx, platform, actor, id, request)),
    );
  });

  router.post('/:id/restore', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(restoreEventRequest, ctx);
    await act(ctx, platform, async (tx, actor) =>
      answer(tx, actor, await restoreEvent(tx, platform, actor, id, request)),
    );
  });

  router.post('/:id/undo', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(undoEventRequest, ctx);
    await act(ctx, platform, async (tx, actor) =>
      answer(tx, actor, await undoChange(tx, platform, actor, id, request)),
    );
  });

  router.post('/:id/nudge', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(nudgeRequest, ctx);
    await act(ctx, platform, async (tx, actor) =>
      answer(tx, actor, await nudge(tx, platform, actor, id, request)),
    );
  });

  router.post('/:id/resend', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(resendRequest, ctx);
    await act(ctx, platform, async (tx, actor) =>
      answer(tx, actor, await resend(tx, platform, actor, id, request)),
    );
  });

  router.post('/:id/invite', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(inviteRequest, ctx);
    await act(ctx, platform, async (tx, actor) =>
      answer(tx, actor, await inviteAlso(tx, platform, actor, id, request)),
    );
  });

  router.post('/:id/proposals/decline', async (ctx) => {
    const id = eventId(ctx);
    const request = readBody(declineProposalRequest, ctx);
    await act(ctx, platform, async (tx, actor) =>
      answer(tx, actor, await declineProposal(tx, platform, actor, id, request)),
    );
  });

  return router;
}
