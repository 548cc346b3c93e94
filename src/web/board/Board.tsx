import { useMemo, useState } from 'react';
import type { BoardBooking, BoardPlace, BoardResponse } from '../../contract/places.ts';
import { collisionWith, freePlaces } from '../../core/booking/collisions.ts';
import { grouped } from '../../core/grouped.ts';
import { formatHours, formatSpan } from '../../core/time/format.ts';
import { overlaps, type Interval } from '../../core/time/interval.ts';
import { addDays } from '../../core/time/wall.ts';
import { may, useMe, useNow, usePreferences } from '../client/index.ts';
import { Panel } from '../design/Panel.tsx';
import { Empty } from '../design/states.tsx';
import { VirtualRows } from '../design/VirtualRows.tsx';
import { EventPanel } from '../events/index.ts';
import { SNAP_MINUTES } from '../grid/index.ts';
import { BoardHead } from './BoardHead.tsx';
import { barName, BoardLane, type Over } from './BoardLane.tsx';
import { Droppable } from './BoardSentence.tsx';
import { BookingPanel } from './BookingPanel.tsx';
import { laneScale, shownOf } from './laneScale.ts';
import { closedBars, collisionWords, rowsOf, type BoardRow, type LaneRow } from './rows.ts';
import type { BoardAddress } from './useBoardAddress.ts';
import { useFavourite } from './useFavourite.ts';
import { useBoardDrag } from './useBoardDrag.ts';
import { useDrawnBookings, useMoveBooking } from './useMoveBooking.tsx';
import { useBoardKeys } from './useBoardKeys.ts';

const WORKING: readonly [number, number] = [7, 20];
const WHOLE: readonly [number, number] = [0, 24];
const NOBODY: readonly BoardBooking[] = [];

/** The lanes with what is over them, and beside them what is picked or open. */
export function Board({ board, address }: { board: BoardResponse; address: BoardAddress }) {
  const me = useMe();
  const now = useNow();
  const { defaultMinutes } = usePreferences();
  const { pick, wishes, date, zone } = { ...address, zone: board.zone };
  const hours = address.isWholeDay ? WHOLE : WORKING;
  const days = board.edges.length - 1;
  const scale = useMemo(
    () =>
      laneScale(
        Array.from({ length: days }, (_, k) => addDays(date, k)),
        zone,
        hours,
      ),
    [days, date, zone, hours],
  );
  const rows = useMemo(
    () => rowsOf(board, wishes, scale),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told by their content
    [board, JSON.stringify(wishes), scale],
  );
  const lanes = useMemo(() => rows.filter((row): row is LaneRow => row.kind === 'lane'), [rows]);
  const byKey = useMemo(() => new Map(lanes.map((row) => [row.key, row])), [lanes]);
  const drawn = useDrawnBookings(board.bookings);
  const bookings = useMemo(() => [...drawn, ...closedBars(board)], [drawn, board]);
  const bookingsOf = useMemo(() => grouped(bookings, (one) => one.resourceId), [bookings]);
  const bars = useMemo(() => new Map(drawn.map((one) => [barName(one), one])), [drawn]);
  const places = useMemo(() => new Map(board.places.map((one) => [one.id, one])), [board]);
  const window = useMemo(() => shownOf({ hours: scale, day: scale.scale.days[0]! }), [scale]);
  const isOne = board.edges.length > 2;
  const free = useMemo(
    () =>
      isOne
        ? null
        : freePlaces(
            lanes.map((row) => row.place),
            bookings,
            window,
            SNAP_MINUTES,
          ),
    [isOne, lanes, bookings, window],
  );
  const collision = (place: BoardPlace, span: Interval, own?: BoardBooking) =>
    collisionWith(
      place,
      span,
      (bookingsOf.get(place.id) ?? NOBODY).filter((one) => one !== own),
      { id: me.id, isSteward: may(me, 'exceed', place.id), now },
    );
  const moving = useMoveBooking(zone);
  const favour = useFavourite();
  const drag = useBoardDrag({
    laneOf: (key) => byKey.get(key),
    bookingOf: (name) => bars.get(name),
    pick,
    zone,
    usualMinutes: defaultMinutes,
    onPick: (next) => address.setPick(next),
    onMove: (booking, span, place) => moving.move(booking, span, places.get(place)!),
    onOpen: ({ eventId, occurrence }) =>
      eventId && address.change({ event: eventId, on: occurrence, at: null, in: null }),
  });
  const [current, setCurrent] = useState<string | null>(null);
  const keys = useBoardKeys({
    lanes,
    pick,
    address,
    zone,
    usualMinutes: defaultMinutes,
    now,
    favour,
    ownIn: (row) =>
      (bookingsOf.get(row.place.id) ?? NOBODY).filter(
        (one) => one.mine && one.eventId !== null && overlaps(one, row.window),
      ),
    onMove: (booking, span, id) => {
      if (booking.start !== span.start || booking.end !== span.end || booking.resourceId !== id)
        moving.move(booking, span, places.get(id)!);
    },
  });
  // What the pointer drags, or the keys carry.
  const dragged = drag.drag;
  const held = dragged ?? (keys.carried && { ...keys.carried, what: keys.carried.booking });
  const overOf = (row: LaneRow): Over | null => {
    if (held && held.row.key === row.key) {
      const own = typeof held.what === 'object' ? held.what : undefined;
      return { span: held.span, isHeld: true, isFree: !collision(row.place, held.span, own) };
    }
    if (!pick?.places.includes(row.place.id)) return null;
    if (dragged?.what === 'pick' && dragged.from.key === row.key) return null;
    const span = dragged?.what === 'pick' ? dragged.span : pick.span;
    return overlaps(span, row.window)
      ? { span, isHeld: false, isFree: !collision(row.place, span) }
      : null;
  };
  const heldCollision =
    held &&
    collision(held.row.place, held.span, typeof held.what === 'object' ? held.what : undefined);
  // The same for each look at the rows while they scroll, so that lanes in sight are not drawn anew.
  const openRow = ({ place }: LaneRow) =>
    address.change(isOne ? { place: null, days: null } : { place: String(place.id), days: '7' });
  const focusRow = ({ key }: LaneRow) => setCurrent(key);
  const chosen = pick ? pick.places.flatMap((id) => places.get(id) ?? []) : [];
  const isWholeNeeded = pick !== null && !overlaps(pick.span, window) && !isOne;
  return (
    <>
      <div className={`select-none ${dragged ? 'cursor-grabbing' : ''}`} {...drag.handlers}>
        <div className="sticky top-0 z-10 border-b border-edge bg-paper pt-1">
          <BoardHead
            hours={scale}
            clock={me.clock}
            free={free}
            most={lanes.length}
            chosen={held?.span ?? pick?.span ?? null}
            words="Fitting places"
          />
        </div>
        <div className="bg-sheet">
          {lanes.length === 0 ? (
            <div className="p-6">
              <Empty
                title={
                  board.places.length === 0 ? 'There are no places here' : 'None fits all of this'
                }
              >
                {board.places.length === 0 ? (
                  'Choose another kind, or every site.'
                ) : (
                  <Droppable address={address} board={board} />
                )}
              </Empty>
            </div>
          ) : (
            <VirtualRows<BoardRow>
              label="Places of the board"
              rows={rows}
              keyOf={(row) => row.key}
              total={rows.length}
              rowPx={[38, 44]}
              onNeedMore={nothing}
            >
              {(row) =>
                row.kind === 'group' ? (
                  <h2 className="flex items-baseline gap-2.5 border-t border-edge bg-paper py-1 pl-6 text-[12.5px] max-sm:pl-3">
                    {row.name}
                    <span className="text-[11.5px] font-normal text-ink-2">
                      {row.fit} of {row.all} {row.all === 1 ? 'fits' : 'fit'}
                    </span>
                  </h2>
                ) : (
                  <BoardLane
                    row={row}
                    bookings={bookingsOf.get(row.place.id) ?? NOBODY}
                    clock={me.clock}
                    zone={zone}
                    over={overOf(row)}
                    now={now >= row.window.start && now < row.window.end ? now : null}
                    isCurrent={(current ?? lanes[0]?.key) === row.key}
                    onName={openRow}
                    onFavourite={favour}
                    onFocus={focusRow}
                    onKeyDown={keys.onKeyDown}
                  />
                )
              }
            </VirtualRows>
          )}
        </div>
      </div>
      <div className="sticky bottom-0 z-10 flex flex-wrap items-center gap-4 border-t max-sm:static border-edge bg-paper px-6 py-2 text-xs text-ink-2 max-sm:px-3">
        <button
          type="button"
          className="font-semibold text-gentian hover:underline max-sm:min-h-11"
          onClick={() => address.change({ hours: address.isWholeDay ? null : 'all' })}
        >
          {address.isWholeDay ? 'From 7 to 20 o’clock' : 'The whole day'}
        </button>
        {zone !== me.zone && <span>Times are those of {me.zoneNames[zone] ?? zone}.</span>}
        <span className="max-sm:hidden">
          Drag over free time to book it; with Shift, click further places to book them together.
        </span>
      </div>
      {/* What arrows choose is said; with the panel beside it the title alone would be. */}
      <p role="status" className="sr-only">
        {pick && keys.isGoing
          ? chosen
              .map((one) => {
                const why = collision(one, pick.span);
                return `${one.name}, ${formatHours(pick.span, zone, me.clock)}: ${why ? collisionWords(one, why, me.clock, pick.span.start) : 'free'}`;
              })
              .join('; ')
          : ''}
      </p>
      {held && (
        <p
          role="status"
          className={`fixed top-16 left-1/2 z-30 -translate-x-1/2 rounded-sm px-3 py-1.5 font-semibold shadow-lg ${heldCollision ? 'bg-glow-wash text-ink' : 'bg-ink text-paper'}`}
        >
          {held.row.place.name}, {formatSpan(held.span, zone, me.clock)}
          {heldCollision &&
            `: ${collisionWords(held.row.place, heldCollision, me.clock, held.row.window.start)}`}
        </p>
      )}
      <Panel
        open={pick !== null && chosen.length > 0}
        leavesFocus={keys.isGoing}
        onClose={() => address.setPick(null)}
        title={`${chosen.length === 1 ? chosen[0]!.name : `${chosen.length} places`}, ${pick ? `${formatHours(pick.span, zone, me.clock)}` : ''}`}
      >
        {pick && (
          <>
            {isWholeNeeded && <p className="mb-2 text-ink-2">It lies outside the hours shown.</p>}
            <BookingPanel
              pick={pick}
              places={chosen}
              others={lanes
                .map((row) => row.place)
                .filter((one) => !pick.places.includes(one.id) && !collision(one, pick.span))
                .slice(0, 60)}
              zone={zone}
              hindrances={chosen.flatMap((one) => {
                const why = collision(one, pick.span);
                return why ? [collisionWords(one, why, me.clock, pick.span.start)] : [];
              })}
              isTaken={chosen.some((one) => collision(one, pick.span)?.kind === 'taken')}
              onPick={(next) => address.setPick(next)}
              onBooked={() => address.setPick(null)}
            />
          </>
        )}
      </Panel>
      {address.event && !pick && (
        <EventPanel
          eventId={address.event}
          occurrence={address.occurrence}
          onClose={() => address.change({ event: null, on: null })}
          onCopy={moving.copy}
        />
      )}
      {moving.question}
    </>
  );
}

const nothing = () => undefined;
