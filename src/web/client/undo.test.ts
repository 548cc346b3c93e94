import { beforeEach, expect, it, vi } from 'vitest';
import { dismiss, notices } from '../design/notices.ts';
import { offerUndo, undoable, undoLatest, withdrawUndo } from './undo.ts';

beforeEach(() => {
  for (const { id } of notices()) dismiss(id);
});

it('takes the latest back first, and each only once, whichever way was first', async () => {
  const [first, second] = [vi.fn(), vi.fn()];
  offerUndo('Skua is changed.', first);
  offerUndo('Petrel is changed.', second);
  notices().at(-1)!.undo!();
  expect([first.mock.calls.length, second.mock.calls.length]).toEqual([0, 1]);
  expect(undoLatest()).toBe(true);
  await vi.waitFor(() => expect(first).toHaveBeenCalledOnce());
  notices().at(0)!.undo!();
  await vi.waitFor(() => expect(undoLatest()).toBe(false));
  expect([first.mock.calls.length, second.mock.calls.length]).toEqual([1, 1]);
});

it('no longer offers what was taken back from a log, and goes on offering the rest', async () => {
  const [place, rest] = [vi.fn(), vi.fn()];
  offerUndo('Petrel is changed.', rest, [11]);
  offerUndo('Skua is changed.', place, [12]);
  withdrawUndo([12, 99]);
  expect(notices().map((one) => one.text)).toEqual(['Petrel is changed.']);
  undoLatest();
  await vi.waitFor(() => expect(rest).toHaveBeenCalledOnce());
  expect([place.mock.calls.length, rest.mock.calls.length]).toEqual([0, 1]);
});

it('waits for what is still under way, so that the latest act is the one taken back', async () => {
  const [early, late] = [vi.fn(), vi.fn()];
  offerUndo('Moved.', early);
  let done = () => undefined as void;
  const work = undoable(new Promise<void>((resolve) => (done = resolve)));
  expect(undoLatest()).toBe(true);
  offerUndo('Moved again.', late);
  done();
  await work;
  await vi.waitFor(() => expect(late).toHaveBeenCalledOnce());
  expect(early).not.toHaveBeenCalled();
});
