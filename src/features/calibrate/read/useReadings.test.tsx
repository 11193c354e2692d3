/** @jest-environment jsdom */
import '@test/dom';
import { act, renderHook, waitFor } from '@testing-library/react';

import { keepReading, takeBackReading } from '../actions';

import { readLine } from './readWaiting';
import { useReadings, type KeptReading } from './useReadings';

jest.mock('../actions', () => ({ keepReading: jest.fn(), takeBackReading: jest.fn() }));

/* Readings on their way to the log: nothing that was entered is forgotten, whatever the server answers and when. */

const keeping = jest.mocked(keepReading);
const taking = jest.mocked(takeBackReading);
const AWAY = { ok: false, said: 'away', message: 'No answer.', fields: {} } as const;

const reading = (stationId: string, line = 0): KeptReading => ({
  ...{ stationId, axis: 'along', coarseMm: null },
  pick: { line, between: false, lengths: 0 },
});
interface Page {
  readonly kept: readonly KeptReading[];
  readonly changes: number;
}
const desk = (page: Page = { kept: [], changes: 4 }) =>
  renderHook((p: Page) => useReadings('pass', p.kept, p.changes, readLine), { initialProps: page });

beforeEach(() => {
  localStorage.clear();
  keeping.mockReset();
  taking.mockReset();
});

test('a page that was asked for before the answer came does not take a reading away again', async () => {
  keeping.mockResolvedValueOnce({ ok: true, value: { changes: 5 } });
  const { result, rerender } = desk();
  act(() => result.current.keep(reading('A1')));
  await waitFor(() => expect(result.current.unsaved).toBe(0));
  expect(result.current.readings).toHaveLength(1);
  // It knows of four changes: older than what was answered.
  rerender({ kept: [], changes: 4 });
  expect(result.current.readings.map((r) => r.stationId)).toEqual(['A1']);
  // One that knows of it may say that it is gone: another tablet took it back.
  rerender({ kept: [], changes: 6 });
  expect(result.current.readings).toEqual([]);
});

test('without an answer it waits, is said, survives a reload, and goes out again under its own number', async () => {
  keeping.mockResolvedValue(AWAY);
  const first = desk();
  act(() => first.result.current.keep(reading('A1', 2)));
  await waitFor(() => expect(first.result.current.message).toBe('No answer.'));
  expect(first.result.current.unsaved).toBe(1);
  expect(first.result.current.readings).toHaveLength(1);
  first.unmount();

  keeping.mockResolvedValue({ ok: true, value: { changes: 5 } });
  const again = desk();
  await waitFor(() => expect(again.result.current.unsaved).toBe(1));
  await waitFor(() => expect(again.result.current.unsaved).toBe(0), { timeout: 10_000 });
  const numbers = new Set(keeping.mock.calls.map(([, stamp]) => stamp.request));
  expect(numbers.size).toBe(1);
  expect(again.result.current.readings.map((r) => r.pick.line)).toEqual([2]);
});

test('what a rule refuses leaves the line and is shown, and what waits behind it is kept', async () => {
  keeping
    .mockResolvedValueOnce({ ok: false, said: 'refused', message: 'This set is closed.', fields: {} })
    .mockResolvedValueOnce({ ok: true, value: { changes: 5 } });
  const { result } = desk();
  act(() => {
    result.current.keep(reading('A1'));
    result.current.keep(reading('A2'));
  });
  await waitFor(() => expect(result.current.unsaved).toBe(0));
  expect(result.current.refused.map((r) => [r.reading.stationId, r.message])).toEqual([
    ['A1', 'This set is closed.'],
  ]);
  expect(result.current.readings.map((r) => r.stationId)).toEqual(['A2']);
  act(() => result.current.forgetRefused());
  expect(result.current.refused).toEqual([]);
});

test('taken back it is gone at once and stays gone on a page that has not heard of it', async () => {
  taking.mockResolvedValue({ ok: true, value: { changes: 9 } });
  const { result, rerender } = desk({ kept: [reading('A1'), reading('A2')], changes: 8 });
  await act(() => result.current.takeBack('A1', 'along'));
  expect(result.current.readings.map((r) => r.stationId)).toEqual(['A2']);
  rerender({ kept: [reading('A1'), reading('A2')], changes: 8 });
  expect(result.current.readings.map((r) => r.stationId)).toEqual(['A2']);
  // Read again over there afterwards.
  rerender({ kept: [reading('A1', 3), reading('A2')], changes: 10 });
  expect(result.current.readings).toHaveLength(2);
});
